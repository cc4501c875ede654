export { codeImage, codePng, codeSvg } from "./code";
export { handleStandingLink } from "./http";
export { loadPoster } from "./loadPoster";
export { POSTER_FORMATS, type Poster, renderPoster } from "./posterKinds";
export { endLink, findLink, linkInput, listLinks, makeLink, pageOf as linkPageOf, type StandingLink } from "./service";

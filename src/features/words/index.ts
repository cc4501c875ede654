export {
  type AgencyWords,
  isStarterPiece,
  loadAgencyWords,
  type Offer,
  offersOf,
  ownLanguage,
  saveAgencyPiece,
  takeOffer,
  withAgencyWords,
} from "./agencyWords";
export { readWordsFile, rowsOfWords, withWordsRows, wordsFile } from "./files";
export { FRAMED_PAGE, handleSampleRequest, handleWayRequest } from "./http";
export { type LinkWalk, linkWalkPage, loadLinkWalk } from "./linkWalk";
export { handlePictureRequest } from "./pictures";
export { changedPiece, withPiece } from "./pieces";
export {
  endWayLinks,
  isSampleToken,
  makeSampleLink,
  makeWayLink,
  openWayLinks,
  previewBehind,
  sendSample,
  WAY_DAYS,
} from "./samples";
export {
  loadWalk,
  shownBy,
  variantsOf,
  type Walk,
  walkLetter,
  walkLetterMail,
  walkMail,
  walkMessage,
  walkPage,
  walkView,
} from "./walk";
export { WALK_TOKEN, walkPicture } from "./walkPicture";

export { type Claim, claimDue } from "./claims";
export { deliver } from "./deliver";
export { countLog, LOG_PAGE, LOG_STATES, type LogState, readLog } from "./log";
export { handleOpenPicture } from "./openPicture";
export { optOutByLink, optOutOf } from "./optOut";
export { handleMailHook, handleTextHook } from "./receive";
export { STATE_WORDS, sayStep } from "./words";

export { type Claim, claimDue } from "./claims";
export { deliver } from "./deliver";
export { customerFrame } from "./handOver";
export { countLog, LOG_PAGE, LOG_STATES, type LogState, readLog } from "./log";
export { handleOpenPicture } from "./openPicture";
export { lookAtOptOut, optBackIn, optOutByLink, optOutOf } from "./optOut";
export { handleMailHook, handleTextHook } from "./receive";
export { STATE_WORDS, sayStep } from "./words";

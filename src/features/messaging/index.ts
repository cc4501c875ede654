export { type Claim, claimDue } from "./claims";
export { deliver } from "./deliver";
export { customerFrame } from "./handOver";
export { receiveTextAt, settleStopWish } from "./incoming";
export { countLog, LOG_PAGE, LOG_STATES, type LogState, readLog } from "./log";
export { claimPictures, fetchPicture, loadMessagePicture, type PictureClaim } from "./messagePictures";
export { handleOpenPicture } from "./openPicture";
export { lookAtOptOut, optBackIn, optOutByLink, optOutOf } from "./optOut";
export { handleMailHook, handleTextHook } from "./receive";

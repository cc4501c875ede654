export { type Claim, claimDue, deliver, replyAddress } from "./deliver";
export { handleOpenPicture } from "./openPicture";
export { optOutByLink, optOutOf } from "./optOut";
export { handleMailHook, handleTextHook } from "./receive";

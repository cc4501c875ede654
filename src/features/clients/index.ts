export { installationAddress, sendAccountMail } from "./accountMail";
export { setAnswerTimes, setAwayWord, setOfficeHours } from "./answering";
export { setThemesReader } from "./business";
export { createClient, type IdsByName } from "./create";
export { setClientPicture } from "./customerSide";
export { holidaysOf, regionsOf } from "./holidays";
export { noteDeleted, releaseDeletion, setArchived, setCollecting, setDeleting } from "./life";
export { dropTag, keepTag } from "./named";
export { keepListing, keepPostalAddress, setRegion } from "./pages";
export { pauseClient, resumeClient } from "./pause";
export {
  type Branch,
  type Client,
  calendarOf,
  hoursOf,
  type Listing,
  loadSetting,
  lookAt,
  officeCalendarOf,
  type Setting,
  todayOf,
  zoneOf,
} from "./queries";
export {
  askForSender,
  confirmSender,
  mayMail,
  noteConfirmed,
  readSenderLink,
  SENDER_LINK_DAYS,
  type SenderAsked,
  senderOf,
} from "./senders";
export { allowanceOf, ceilingOf, monthOf, StoredQuota, usageOf } from "./sendQuota";
export {
  addBranch,
  addByName,
  changeClient,
  connectListing,
  disconnectListing,
  refreshReviewSums,
  resumeListings,
  setAccountDomains,
  setCollected,
  setListingProblem,
} from "./state";
export { numberRefusal } from "./textNumber";

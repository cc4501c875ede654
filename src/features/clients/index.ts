export { setClientLogo } from "./business";
export { createClient, type IdsByName } from "./create";
export { linksAsTyped } from "./customerSide";
export { holidaysOf, regionsOf } from "./holidays";
export { noteDeleted, releaseDeletion, setArchived, setCollecting, setDeleting } from "./life";
export { dropTag, keepTag } from "./named";
export { keepListing, keepPostalAddress, setRegion } from "./pages";
export { pauseClient, resumeClient } from "./pause";
export { calendarOf, hoursOf, type Listing, loadSetting, type Setting, todayOf } from "./queries";
export { allowanceOf, ceilingOf, monthOf, StoredQuota, usageOf } from "./sendQuota";
export {
  addBranch,
  addByName,
  changeClient,
  refreshReviewSums,
  setAccountDomains,
  setCollected,
  setListingProblem,
} from "./state";

export { createClient } from "./create";
export { holidaysOf, regionsOf } from "./holidays";
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

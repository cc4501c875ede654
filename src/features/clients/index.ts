export { holidaysOf, regionsOf } from "./holidays";
export { allowanceOf, ceilingOf, Meter, monthOf, usageOf } from "./meter";
export { dropTag, keepTag } from "./named";
export { keepListing, keepPostalAddress, setRegion } from "./pages";
export { calendarOf, hoursOf, type Listing, loadSetting, type Setting, todayOf } from "./queries";

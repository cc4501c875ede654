export { type ClientOutlook, listGroups, listOutlooks, type OutlookFilter } from "./queries";
export { claimOutlooks, refreshOutlook } from "./refresh";

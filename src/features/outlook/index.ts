export { type FirstSteps, loadFirstSteps } from "./firstSteps";
export {
  type ClientOutlook,
  listOutlooks,
  loadStartMargin,
  type OutlookFilter,
  type StartMargin,
} from "./queries";
export { claimOutlooks, refreshOutlook, setNeedAside } from "./refresh";
export { claimSummaries, mailSummary, type SummaryClaim, setSummaryReader } from "./summary";

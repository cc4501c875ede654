export { leftOutPeople } from "./leftOut";
export { lastVisitsOf } from "./ofPerson";
export {
  lastAbout,
  lastVisitsUntil,
  recordVisit,
  setOutcome,
  type Visit,
  type VisitValues,
  visitInput,
} from "./service";
export {
  cancelUnnamed,
  deleteVisitsOfList,
  leaveAsks,
  looksAtNone,
  reexamineVisits,
  releaseVisitsOfPlan,
  setDecisions,
  setWaitsFor,
  type VisitDecision,
} from "./state";
export {
  countWaiting,
  type IncomingVisit,
  NO_VISIT,
  serviceWords,
  settleWords,
  type UpsertedVisit,
  upsertVisits,
  VisitsDryRun,
  waitsForWords,
} from "./upsert";

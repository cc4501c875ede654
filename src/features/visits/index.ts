export {
  countWaiting,
  type IncomingVisit,
  type KeptVisit,
  keepVisits,
  NO_VISIT,
  serviceWords,
  settleWords,
  VisitsRehearsal,
  waitsForWords,
} from "./keep";
export { leftOutPeople } from "./leftOut";
export { lastAbout, recordVisit, setOutcome, type Visit, type VisitValues, visitInput } from "./service";

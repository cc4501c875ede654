export { findingsOf, lookAtLinks } from "./checks";
export { loadPlanView, type PlanView } from "./planView";
export { type RehearsalSum, runRehearsal, sumUp, wordsOf } from "./rehearsal";
export { stageRehearsal } from "./rehearsalStage";
export { MOST_REHEARSED, type RehearsalSource } from "./rehearsedVisits";
export { tallyWordings } from "./trials";

export { findingsOf, lookAtLinks } from "./checks";
export { loadPlanView, type PlanView } from "./planView";
export { type RehearsalSum, runRehearsal, sumUp } from "./rehearsal";
export { stageRehearsal } from "./rehearsalStage";
export { loadRehearsal, type RehearsalView, rehearsalQuery } from "./rehearsalView";
export type { RehearsalSource } from "./rehearsedVisits";
export { tallyWordings } from "./trials";

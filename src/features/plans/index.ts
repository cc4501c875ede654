export { anyGoesByMailbox, findPlan, listPlans, listVersions, longestRest, type Plan, planForHand } from "./queries";
export {
  addPlan,
  bringForwardRun,
  changeRules,
  dropDraft,
  installPlan,
  leaveOutSite,
  orderPlans,
  putInForce,
  renamePlan,
  setPlanState,
  setRuns,
} from "./service";

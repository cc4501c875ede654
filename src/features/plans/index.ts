export { findPlan, listPlans, listVersions, longestRest, type Plan, planForHand } from "./queries";
export {
  addPlan,
  changeRules,
  dropDraft,
  installPlan,
  orderPlans,
  putInForce,
  renamePlan,
  setPlanState,
} from "./service";

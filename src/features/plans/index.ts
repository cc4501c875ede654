export * from "./queries";
export * from "./service";
export { STARTERS, starterRules } from "./starter";
export { occasions, plans, planVersions, siteTurns } from "./tables";

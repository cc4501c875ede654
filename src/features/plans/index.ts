export * from "./queries";
export * from "./service";
export { starterRules } from "./starter";
export { plans } from "./tables";

export * from "./queries";
export * from "./service";
export { STARTERS, starterRules } from "./starter";

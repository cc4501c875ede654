export * from "./queries";
export * from "./service";
export { CONCERN_OUTCOMES, type ConcernOutcome, concerns } from "./tables";

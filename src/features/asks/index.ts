export * from "./contexts";
export * from "./decide";
export { askByToken } from "./links";
export * from "./many";
export * from "./schedule";
export { type AskEnd, asks } from "./tables";

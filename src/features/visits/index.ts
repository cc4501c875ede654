export * from "./keep";
export * from "./leftOut";
export * from "./service";
export { visits } from "./tables";

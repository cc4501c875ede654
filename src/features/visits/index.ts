export * from "./keep";
export * from "./leftOut";
export * from "./service";

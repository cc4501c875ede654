export * from "./directory";
export * from "./keep";
export * from "./queries";
export * from "./service";

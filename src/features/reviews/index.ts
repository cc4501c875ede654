export * from "./queries";
export * from "./service";

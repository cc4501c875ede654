export * from "./queries";

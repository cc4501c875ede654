export * from "./filters";
export * from "./queries";
export * from "./service";
export { people } from "./tables";

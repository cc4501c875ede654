export * from "./queries";
export * from "./service";
export { reviews } from "./tables";

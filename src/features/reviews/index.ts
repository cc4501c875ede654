export * from "./service";
export { reviews } from "./tables";

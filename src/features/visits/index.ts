export * from "./service";
export { visits } from "./tables";

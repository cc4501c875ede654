export { regionOf, regionsOf } from "./holidays";
export * from "./meter";
export * from "./named";
export * from "./pages";
export * from "./queries";

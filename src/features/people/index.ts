export * from "./directory";
export * from "./keep";
export * from "./queries";
export * from "./service";
export { type Consent, erasures, households, merges, people, setApart, views } from "./tables";

export * from "./directory";
export * from "./keep";
export * from "./queries";
export * from "./service";
export { type Consent, erasures, households, merges, people, peopleMatches, setApart, views } from "./tables";

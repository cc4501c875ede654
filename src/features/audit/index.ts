export { changesOf, note } from "./service";
export { auditEntries } from "./tables";

export { type AuditEntry, auditTrail, changesOf, note } from "./service";
export { auditEntries } from "./tables";

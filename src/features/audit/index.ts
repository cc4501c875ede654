export {
  auditTrail,
  changesOf,
  recordAudit,
  recordSignIn,
  TRAIL_PAGE,
  type TrailEntry,
} from "./service";

export {
  auditTrail,
  changesOf,
  recordAudit,
  recordSignIn,
  TRAIL_PAGE,
  TRAIL_PARTS,
  type TrailEntry,
  type TrailPart,
} from "./service";

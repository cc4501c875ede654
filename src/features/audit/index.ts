export { type AgencyTrailEntry, type AgencyTrailFilter, type AgencyTrailPart, agencyTrail } from "./agencyTrail";
export {
  auditTrail,
  changesOf,
  recordAudit,
  recordSignIn,
  TRAIL_PAGE,
  type TrailEntry,
} from "./service";
export { AGENCY_PARTS, filterOfTrail, readTrailQuery, type TrailQuery } from "./trailQuery";

export {
  auditTrail,
  changesOf,
  note,
  noteSignIn,
  TRAIL_PAGE,
  TRAIL_PARTS,
  type TrailEntry,
  type TrailPart,
} from "./service";

export {
  type KeptOwnerRule,
  listAbsences,
  listOwnerRules,
  mayAnswer,
  setAbsence,
  setOwner,
} from "./owners";
export { countConcerns, listConcerns, viewConcern } from "./queries";
export {
  addTeamNote,
  answerConcern,
  claimReminders,
  closeConcern,
  handOverConcern,
  openConcern,
  openConcernOf,
  remindOf,
  reopenConcern,
  setConcernPerson,
  takeConcern,
  teamNotes,
} from "./service";

export {
  type KeptOwnerRule,
  listAbsences,
  listOwnerRules,
  mayAnswer,
  setAbsence,
  setOwner,
} from "./owners";
export { concernCounts, listConcerns, viewConcern, waitingConcernCount, waitingConcerns, written } from "./queries";
export {
  addTeamNote,
  answerConcern,
  claimReminders,
  closeConcern,
  concernAnswerInput,
  concernOf,
  handOverConcern,
  openConcern,
  openConcernOf,
  type Refusal,
  remindOf,
  reopenConcern,
  setConcernPerson,
  takeConcern,
  teamNotes,
} from "./service";

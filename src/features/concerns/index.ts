export { countConcerns, listConcerns, viewConcern } from "./queries";
export {
  addTeamNote,
  answerConcern,
  claimReminders,
  closeConcern,
  openConcern,
  openConcernOf,
  remindOf,
  reopenConcern,
  setConcernPerson,
  takeConcern,
  teamNotes,
} from "./service";

export { countConcerns, listConcerns, viewConcern } from "./queries";
export {
  answerConcern,
  claimReminders,
  closeConcern,
  openConcern,
  openConcernOf,
  remindOf,
  reopenConcern,
  setConcernPerson,
  takeConcern,
} from "./service";

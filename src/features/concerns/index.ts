export { countConcerns, listConcerns, viewConcern } from "./queries";
export {
  answerConcern,
  closeConcern,
  openConcern,
  openConcernOf,
  reopenConcern,
  setConcernPerson,
  takeConcern,
} from "./service";

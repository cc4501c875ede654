export { countConcerns, listConcerns, viewConcern } from "./queries";
export { answerConcern, closeConcern, openConcern, openConcernOf, reopenConcern, takeConcern } from "./service";

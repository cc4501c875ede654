export { handleAnswerRequest, handleOptOutRequest } from "./http";
export { keepOpenAnswer, openAnswerRules } from "./service";

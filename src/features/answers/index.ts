export { handleAnswerRequest, handleOptOutRequest } from "./http";

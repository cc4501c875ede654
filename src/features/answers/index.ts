export { handleAnswerRequest, handleOptOutRequest } from "./http";
export * from "./service";

export { handleAnswerRequest, handleOptOutRequest } from "./http";
export * from "./service";
export { answers, sitesFollowed } from "./tables";

export { type SaidBeside, saidBeside } from "./beside";
export { customerHtml, goTo, inLanguage, languageIn, readForm } from "./customerHttp";
export { handleAnswerRequest, handleOptOutRequest, lookAtAnswer, MOST_PHOTOS, readGiven } from "./http";
export {
  AUTOMATED_PAGE,
  type AutomatedAnswer,
  changeOpenAnswer,
  countAutomated,
  findOpenAnswer,
  keepOpenAnswer,
  listAutomated,
  markAnswersRead,
  openAnswerRules,
  readAnswersAnew,
  settleAutomated,
} from "./openAnswers";
export { EndedPage, LatePage, LostPage, PrivacyPage } from "./otherPages";
export { AnswerPage } from "./page";
export { answerOf, lookOf, noteOf, type PageView, pageOf, pageWordsFor } from "./pageView";
export { keepAnswerPhoto, loadPhoto, photoOf, readPhoto } from "./photos";
export type { Given } from "./service";
export { type Answer, type AnswerView, viewOf } from "./view";

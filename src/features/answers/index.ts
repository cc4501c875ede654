export { type SaidBeside, saidBeside } from "./beside";
export { customerHtml, goTo, inLanguage, languageIn, readForm } from "./customerHttp";
export {
  asideTo,
  handleAnswerRequest,
  handleOptOutRequest,
  lookAtAnswer,
  MOST_PHOTOS,
  readGiven,
  readMayShow,
  readTyped,
  type WrongKey,
} from "./http";
export { type ListedNote, listNotes, NOTES_PAGE, unreadNotesCount } from "./notes";
export {
  AUTOMATED_PAGE,
  type AutomatedAnswer,
  automatedCount,
  changeOpenAnswer,
  findOpenAnswer,
  keepOpenAnswer,
  keepOpenDraft,
  listAutomated,
  markAnswersRead,
  openAnswerRules,
  readAnswersAnew,
  settleAutomated,
} from "./openAnswers";
export { EndedPage, LatePage, lostPage, PrivacyPage } from "./otherPages";
export { AnswerPage } from "./page";
export { answerOf, lookOf, noteOf, type PageView, pageOf, pageWordsFor } from "./pageView";
export { keepAnswerPhoto, loadPhoto, photoOf, readPhoto } from "./photos";
export { type Answer, type AnswerView, viewOf } from "./view";

export { askByHand } from "./byHand";
export {
  type Ask,
  type AskContext,
  loadContexts,
  lockAsks,
  lockPersonOfAsk,
  nextOf,
  openAsksOf,
  soFar,
  wordingFacts,
  wouldBeAsk,
  writtenTo,
} from "./contexts";
export { beginningOf, decideVisits, isSpread, planOf } from "./decide";
export { EligibilityFacts, lockHomes } from "./eligibilityFacts";
export { type NewAskEvent, OF_MESSAGE, prepareEvents, recordEvents, recordMessageEvents } from "./events";
export { type ComingVisit, type Fate, foretell } from "./foretell";
export { type AskLink, askByToken, type LinkRow, linkFromRow } from "./links";
export { askMany, foretellMany, MOST_AT_ONCE, type WouldAsk, type WouldLeaveOut } from "./many";
export { STATE_WORDS, sayStep } from "./messageWords";
export { countHeld, standingOf, stoppedPlans, tallyPlans, toldUsedUp } from "./overview";
export {
  asksUnderWay,
  MOST_REHEARSED,
  partsOfRehearsed,
  rehearsedAsk,
  rehearsedClient,
  rehearsedVisit,
  wordsOfRehearsed,
} from "./rehearsed";
export { personsOf, rehearsedPeople } from "./rehearsedPeople";
export {
  planNext,
  type Retry,
  replanAll,
  replanPortions,
  scheduledOf,
  setAnswered,
  stopAsks,
  stopAsksOfVisits,
  stopEveryAsk,
} from "./schedule";
export { lookUpMailHosts, offeredListings, reviewedSites } from "./sites";
export { countStages, peopleAt, STAGE_PAGE, type StageFilter } from "./stages";
export {
  addPersonalMessage,
  clearAllowances,
  reopenAsk,
  reopenEndedAsk,
  setAllowanceFrom,
  setDelivered,
  setMessagesPerson,
  setOpened,
  setProgress,
  setReviewed,
  setSent,
  setSiteFollowed,
} from "./state";
export { outsideHours, steer } from "./steer";
export {
  addPutRight,
  dropSameTriggers,
  pauseIfRejected,
  releaseWaiting,
  runPlanSchedule,
  runTriggers,
  stopPutRight,
  wasAskedAgain,
} from "./triggers";
export { noticeAllowanceUsedUp } from "./usedUp";
export { enforce, forecastMove } from "./versions";
export { noteFollowed, noteOptOutSeen, noteShown } from "./visits";
export { type WhyVisit, whyPerson, whyVisit } from "./why";
export { isUnwanted, stopUnwanted } from "./wishes";
export { type ComposedMessage, composeStep, languageFor } from "./wording";

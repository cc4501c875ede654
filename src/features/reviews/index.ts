export {
  type Alike,
  ANSWERABLE,
  alikeOf,
  answeredSince,
  inPublic,
  type PublicReview,
  type Share as AnsweredShare,
  type Writer,
  writerOf,
} from "./answered";
export { claimListings, collect } from "./collect";
export { type Drafted, draftedOf, namedIn, openDesk, ownLanguage, readOf } from "./drafts";
export { dropImported, keepImported } from "./keep";
export { type Lately, namedLately } from "./lately";
export {
  countFacet,
  countMatching,
  isFacet,
  isWaitingForReply,
  type ListedReview,
  listPinned,
  listReviews,
  REVIEWS_PAGE,
  type ReviewFilter,
  reviewCounts,
  unpostedByListing,
  waitingReviewCount,
  waitingReviews,
} from "./queries";
export { readingOf } from "./readings";
export { claimReplies, postDueReply, postReply } from "./replies";
export {
  addRule,
  changeRule,
  countPlanned,
  keptRule,
  listRules,
  namesOf,
  type Rehearsed,
  rehearseRules,
} from "./rules";
export { keepAgencySaved, keepSaved, listAgencySaved, listSaved, type SavedReply } from "./saved";
export { markReviewsRead, readReviewsAnew } from "./service";
export { listReviewViews, type ReviewView, viewQuery } from "./views";

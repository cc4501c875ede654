export { ReviewsPage, type ReviewsView } from "./page";
export { loadReviewsPage } from "./publicPage";
export {
  answerOwnReview,
  countOwnReviews,
  countWaitingOwn,
  hideOwnReview,
  listOwnReviews,
  OWN_REVIEWS_PAGE,
  type OwnReview,
  ownReviewsPage,
  reviewsAt,
  syncOwnReview,
  waitingOwnCount,
  waitingOwnReviews,
} from "./service";

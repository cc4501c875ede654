export { ReviewsPage, type ReviewsView } from "./page";
export { loadReviewsPage } from "./publicPage";
export {
  answerOwnReview,
  countOwnReviews,
  countWaitingOwnReviews,
  hideOwnReview,
  listOwnReviews,
  OWN_REVIEWS_PAGE,
  type OwnReview,
  ownReviewsPage,
  reviewsAt,
  syncOwnReview,
  waitingOwnReviews,
} from "./service";

export { ReviewsPage, type ReviewsView } from "./page";
export { loadReviewsPage } from "./publicPage";
export {
  answerOwnReview,
  hideOwnReview,
  listOwnReviews,
  OWN_REVIEWS_PAGE,
  type OwnReview,
  ownReviewCounts,
  ownReviewsPage,
  reviewsAt,
  syncOwnReview,
  waitingOwnCount,
  waitingOwnReviews,
} from "./service";

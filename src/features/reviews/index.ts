export { type Drafted, draftedOf, openDesk } from "./drafts";
export { countReviews, type ListedReview, listReviews, REVIEWS_PAGE } from "./queries";
export { claimListings, collect, postReply } from "./service";

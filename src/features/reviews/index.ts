export { countReviews, listReviews, REVIEWS_PAGE } from "./queries";
export { claimListings, collect, postReply } from "./service";

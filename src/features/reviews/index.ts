export { type Drafted, draftedOf, namedIn, openDesk, ownLanguage } from "./drafts";
export { type Lately, namedLately } from "./lately";
export { countReviews, type ListedReview, listReviews, REVIEWS_PAGE } from "./queries";
export { claimListings, collect, postReply } from "./service";

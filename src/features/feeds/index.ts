export { handleDropOff } from "./dropOff";
export * from "./fetched";
export * from "./service";
export { deliveries, FEED_KINDS, type FeedKind, feeds } from "./tables";
export { type Hindrance, hindrances } from "./trouble";
export { handleFeedHook, workOnDeliveries } from "./webhook";

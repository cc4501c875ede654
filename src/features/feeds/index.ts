export { handleDropOff } from "./dropOff";
export * from "./fetched";
export * from "./service";
export { deliveries, FEED_KINDS, type FeedKind, feeds } from "./tables";
export { handleFeedHook, workOnDeliveries } from "./webhook";

export { handleDropOff } from "./dropOff";
export * from "./fetched";
export * from "./service";
export { type Hindrance, hindrances } from "./trouble";
export { handleFeedHook, workOnDeliveries } from "./webhook";

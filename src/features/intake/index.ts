export { handleDropOff } from "./dropOff";
export { hindrances } from "./feedProblems";
export {
  addFeed,
  addressOf,
  changeFeed,
  claimDeliveries,
  claimFeeds,
  type Delivery,
  type Feed,
  type FeedValues,
  feedNumbers,
  findFeed,
  listDeliveries,
  listFeeds,
  mappingOf,
  renewFeed,
  secretOf,
  tryAgain,
} from "./feeds";
export { fetchFeed, takeCalendar } from "./fetched";
export { harmless, MOST_BYTES, toCsv, Unreadable } from "./files";
export { forgetInLists, forgetInLongLists } from "./forget";
export {
  bringList,
  chooseReading,
  claimStalledLists,
  findIntake,
  type Intake,
  keepIntake,
  keepRows,
  loadList,
  mendRow,
  type NotedRow,
  readIntake,
  recentIntakes,
  rowsOfIntake,
  undoIntake,
  workOnList,
} from "./lists";
export { assignedNames, assignName, type NameKind, openNames } from "./names";
export { closeReader } from "./reader";
export { fieldsOfKnown, takeIn } from "./service";
export { takenOfList } from "./taken";
export { handleFeedHook, workOnDeliveries } from "./webhook";

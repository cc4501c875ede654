export { handleDropOff } from "./dropOff";
export { dryRunOfList } from "./dryRun";
export { feedProblems } from "./feedProblems";
export {
  addFeed,
  addressOf,
  changeFeed,
  claimFeeds,
  claimInboundEvents,
  type Feed,
  type FeedValues,
  feedNumbers,
  findFeed,
  type InboundEvent,
  listFeeds,
  listInboundEvents,
  mappingOf,
  renewFeed,
  retryInboundEvent,
  secretOf,
} from "./feeds";
export { fetchFeed, takeCalendar } from "./fetched";
export { harmless, MOST_BYTES, toCsv, Unreadable } from "./files";
export { forgetInLists, forgetInLongLists } from "./forget";
export { fieldsOfKnown, ingest } from "./ingest";
export {
  chooseReading,
  claimStalledLists,
  findIntake,
  type Intake,
  importRows,
  loadList,
  type NotedRow,
  parseIntake,
  receiveList,
  recentIntakes,
  retryRow,
  rowsOfIntake,
  runListTask,
  startImport,
  undoImport,
} from "./lists";
export { assignedNames, assignName, type NameKind, openNames } from "./names";
export { closeReader } from "./reader";
export { handleFeedHook, processEventsOf } from "./webhook";

export { packBytes, parseContent } from "./content";
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
export { installIntakeParts, intakeParts } from "./fileParts";
export { harmless, MOST_BYTES, toCsv, Unreadable } from "./files";
export { forgetInLists, forgetInLongLists } from "./forget";
export { fieldsOfKnown, ingest } from "./ingest";
export { importRows, type NotedRow, retryRow, rowsOfIntake, startImport } from "./listImport";
export { chooseReading, parseIntake, receiveList } from "./listReading";
export { claimStalledLists, findIntake, type Intake, loadList, recentIntakes } from "./listState";
export { runListTask } from "./listTask";
export { undoImport } from "./listUndo";
export { type ListView, loadListView } from "./listView";
export { assignedNames, assignName, type NameKind, openNames } from "./names";

export { handleFeedHook, processEventsOf } from "./webhook";

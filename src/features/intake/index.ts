export { AT_ONCE } from "./atOnce";
export { harmless, MOST_BYTES, toCsv, Unreadable } from "./files";
export { forgetErased, forgetInLists, forgetInLongLists } from "./forget";
export * from "./lists";
export * from "./names";
export { closeReader } from "./reader";
export * from "./service";
export {
  type Forecast,
  type Found,
  type IntakeCounts,
  intakeRows,
  intakes,
  type ReadingChoice,
  readings,
  seenNames,
} from "./tables";
export { takenOfList } from "./taken";

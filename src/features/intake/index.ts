export { AT_ONCE } from "./atOnce";
export { harmless, MOST_BYTES, toCsv, Unreadable } from "./files";
export { forgetErased, forgetInLists, forgetInLongLists } from "./forget";
export * from "./lists";
export * from "./names";
export { closeReader } from "./reader";
export * from "./service";
export { takenOfList } from "./taken";

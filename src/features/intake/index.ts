export { harmless, MOST_BYTES, toCsv, Unreadable } from "./files";
export * from "./lists";
export * from "./names";
export * from "./service";
export { type Forecast, type Found, type IntakeCounts, intakeRows, intakes, type ReadingChoice, readings, seenNames } from "./tables";
export { takenOfList } from "./taken";

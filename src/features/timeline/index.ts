export { momentsOf } from "./moments";
export { type Timeline, timelineOf } from "./queries";

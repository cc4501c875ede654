export { type Timeline, timelineOf } from "./queries";

export { momentsOf } from "./moments";
export { type Story, storyOf } from "./queries";

export { type Story, storyOf } from "./queries";

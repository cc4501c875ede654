export * from "./compose";
export { emailPage } from "./emailPage";
export { MESSAGE_STATES, type MessageState, messages } from "./tables";

export * from "./compose";
export { emailPage } from "./emailPage";
export * from "./queries";
export { MESSAGE_STATES, type MessageState, messages } from "./tables";
export * from "./words";

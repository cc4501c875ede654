export * from "./compose";
export { emailPage } from "./emailPage";
export * from "./queries";
export * from "./words";
export { MESSAGE_STATES, type MessageState, messages } from "./tables";

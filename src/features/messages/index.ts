export * from "./compose";
export { emailPage } from "./emailPage";
export * from "./queries";
export * from "./words";

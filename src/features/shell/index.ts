export { LiveRefresh } from "./LiveRefresh.client";
export { Masthead } from "./Masthead";

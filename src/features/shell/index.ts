export { LiveRefresh } from "./LiveRefresh.client";
export { Masthead } from "./Masthead";
export { SetUpNav } from "./SetUpNav.client";

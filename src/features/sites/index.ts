export { atPage } from "./access";
export {
  accountNames,
  beginSignIn,
  findConnection,
  finishConnecting,
  finishSignIn,
  likelyPlace,
  listAccounts,
  listConnections,
  listenTo,
  type SiteConnection,
  searchSite,
} from "./connecting";
export { handleSiteHook } from "./hook";

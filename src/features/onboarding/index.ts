export { exportClient } from "./exportClient";
export { draftOfLink, endLink, type FilledDraft, LINK_DAYS, makeLink, saveProposal, settleProposal } from "./link";
export {
  beginDraft,
  type Draft,
  dropDraft,
  findDraft,
  listDrafts,
  type Started,
  saveDraftValues,
  startClient,
} from "./service";

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

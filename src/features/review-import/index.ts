export {
  type ImportView,
  pagesByHand,
  receiveReviews,
  recentImports,
  viewImport,
} from "./service";

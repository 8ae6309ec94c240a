export { postToChart, reconcileView, reverse, type PartLine, type PostError, type ReconcileView } from "./reconcile";
export { chartView, type ChartView } from "./chart-view";
export { people, person, type People, type PersonLine } from "./people";
export { changeContact, changeRelation, endRelation, reachView, type ReachView } from "./reach";
export { addClient, addContact, addRelation, addTestClient, type AddClientError } from "./add-client";
export { openClient, shareClient, unshareClient, type CareTeam, type OpenClientError } from "./care-team";
export { endHold, eraseClient, eraseView, holdClient, type EraseError, type EraseView } from "./erase";
export { archiveClient, bringBackClient, changeIdentity } from "./identity";
export {
  mergeClients,
  mergePreview,
  undoMerge,
  type MergedRecord,
  type MergeError,
  type MergePreview,
  type MergeSide,
} from "./merge";
export {
  addNext,
  beginImport,
  checkRows,
  dropImport,
  exportClients,
  importView,
  mostRowsAtOnce,
  ownImports,
  refusedRows,
  startImport,
  type ImportView,
} from "./clients-file";

export {
  keepDecisions,
  postToChart,
  reconcileView,
  type PartLine,
  type PostError,
  type ReconcileView,
} from "./reconcile";
export { chartTable, exportChart, importChart, type ImportChartError } from "./chart-file";
export { chartPaper } from "./chart-paper";
export { reverse } from "./reverse";
export { writeInChart, type WriteError } from "./write-in-chart";
export {
  dropPlan,
  keepPlan,
  offerPlan,
  planView,
  takePlan,
  type PlanError,
  type PlanLineView,
  type PlanView,
} from "./plan";
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

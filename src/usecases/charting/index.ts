export { postToChart, reconcileView, reverse, type PartLine, type PostError, type ReconcileView } from "./reconcile";
export { chartView, type ChartView } from "./chart-view";
export { people, person, type People, type PersonLine } from "./people";
export { changeContact, changeRelation, endRelation, reachView, type ReachView } from "./reach";
export { addClient, addContact, addRelation, type AddClientError } from "./add-client";

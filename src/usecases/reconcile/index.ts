export { post, reconcileView, reverse, type PartLine, type PostError, type ReconcileView } from "./reconcile";
export { chartView, type ChartView } from "./chart-view";

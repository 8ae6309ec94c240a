export { alertLines, closeAlert, type AlertClosed, type AlertLine } from "./alerts";
export { KnownScores, pointsOfClients } from "./courses";
export { allScoresTable, scoresFhir, scoresTable } from "./take-out";
export { measuresView, sharedScores, type ItemSeries, type MeasuresView, type SharedScores } from "./trend";

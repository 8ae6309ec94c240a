export { alertLines, closeAlert, type AlertClosed, type AlertLine } from "./alerts";
export { bringScores, scoreChoices, type BringScoresError, type CheckedScores, type ScoreChoice } from "./bring";
export { caseload, type Caseload, type CaseLine, type Figures } from "./caseload";
export { KnownScores, pointsOfClients } from "./courses";
export { measurePolicy, setMeasurePolicy } from "./policy";
export { askForMeasures, endSchedule, recallOf, scheduleMeasures, type ScheduleLine } from "./schedule";
export { checkVisit, visitStart, type MovedItem, type StartPart, type VisitStart } from "./visit-start";
export { allScoresTable, scoresFhir, scoresTable } from "./take-out";
export { measuresView, sharedScores, type ItemSeries, type MeasuresView, type SharedScores } from "./trend";

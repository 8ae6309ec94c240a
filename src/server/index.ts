export { application, createApplication, createPorts, openApplication, type Application } from "./application";
export type { Keys } from "./keys";
export { clientActor, savingActor, sessionHolds, staffActor } from "./actors";
export { readEnvironment, type Environment } from "./environment";
export { walkJournal } from "./journal-walk";
export {
  deliverDue,
  eraseAgain,
  escalateAlerts,
  heardErased,
  keepHead,
  lookAfterTables,
  makeCourses,
  mailAnchors,
  recoverPost,
  resealKeys,
  runImports,
  runMailings,
  runSchedules,
  scrubKeys,
  startJobs,
} from "../jobs";
export { run } from "./run";
export { metricsText } from "./metrics";
export { isBusy } from "../db/errors";
export { log, nameOfError } from "./log";
export type * from "../usecases/backup";
export { packEverything, type Packed } from "./everything";
export { fillSheet, renderBlankPaper, renderNotePaper, renderOwnPaper, renderPaper, renderRecordPaper } from "./papers";
export * as useCases from "./use-cases";
export { logoPath, rightsFor } from "../usecases/kit";
export type { Access, CommonError, UseCase } from "../usecases/kit";
export type * from "../usecases/charting";
export type * from "../usecases/scheduling";
export type * from "../usecases/sending";
export type * from "../usecases/access";
export type * from "../usecases/filling";
export type * from "../usecases/signing";
export type * from "../usecases/review";
export type * from "../usecases/measures";
export type * from "../usecases/notes";
export type * from "../usecases/authoring";
export type * from "../usecases/audit";
export type * from "../usecases/identity";
export type * from "../usecases/practice";
export type * from "../usecases/team";
export { setUpCodeWords } from "../usecases/practice";

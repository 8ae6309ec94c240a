export {
  builtInFields,
  chartSections,
  chartSectionTitles,
  fieldByKey,
  isNarrative,
  rowWords,
  type ChartField,
  type ChartSection,
} from "./fields";
export type { ChartEntry, ChartValue, EntryChange, EntryReversal, EntrySource, RowValue } from "./entries";
export {
  foldChart,
  reversals,
  rowsOn,
  standingIn,
  valueOn,
  wordsIn,
  type Chart,
  type Dated,
  type FieldState,
  type RowState,
} from "./fold";
export { chartValue, inChartUnit, readAmount, type ChartUnit } from "./convert";
export {
  emptyPlan,
  fedTwice,
  planOf,
  remembered,
  usualRule,
  withPlan,
  wordKey,
  type PlanLine,
  type PlanMemory,
  type PlanReason,
  type PostingPlan,
} from "./plan";
export { mostQuick, quickIn, sectionsIn, startingQuick, type ChartLayout } from "./layout";
export { incomingOf, postingProblems, remarksLine, type Incoming } from "./posting-plan";
export {
  decide,
  decisions,
  likeName,
  mayRedirect,
  reconcileLines,
  type Choice,
  type Decision,
  type EntryDraft,
  type ReconcileDraft,
  type ReconcileError,
  type ReconcileLine,
} from "./reconcile";
export { identityOf, nameOf, ageOn, contactsOf, type ClientIdentity, type Contacts } from "./identity";
export { prefillFrom } from "./prefill";
export { birthDatesTyped, comparable, isSame, likeness, personTest, sameKeys, type Likeness } from "./find-person";
export { Directory, type DirectoryEntry, type DirectoryView, type WithArchived } from "./directory";
export { chartLine } from "./chart-line";
export { columnsOf, fieldLabelSchema, newFieldSchema } from "./field-forms";
export { keyFor, ownField, ownFieldKinds, ownFieldSections, type OwnFieldKind } from "./own-fields";
export { mergeChanges, mergeLines, type MergeLine } from "./merge";
export {
  clientColumns,
  clientColumnWords,
  clientRow,
  guessColumns,
  importStates,
  readClientsFile,
  writeTable,
  type ClientColumn,
  type ClientRow,
  type ClientsFile,
  type ImportState,
  unguarded,
  writtenDay,
} from "./clients-file";

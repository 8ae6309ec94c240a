export {
  builtInFields,
  chartSections,
  chartSectionTitles,
  fieldByKey,
  type ChartField,
  type ChartSection,
} from "./fields";
export type { ChartEntry, ChartValue, EntryChange, EntrySource, RowValue } from "./entries";
export { foldChart, rowsOn, valueOn, type Chart, type Dated, type FieldState, type RowState } from "./fold";
export { incomingOf, postingProblems, type Incoming } from "./posting-plan";
export {
  decide,
  decisions,
  reconcileLines,
  type Choice,
  type Decision,
  type EntryDraft,
  type ReconcileError,
  type ReconcileLine,
} from "./reconcile";
export { identityOf, nameOf, ageOn, contactsOf, type ClientIdentity, type Contacts } from "./identity";
export { prefillFrom } from "./prefill";
export { comparable, isSame, likeness, personTest, sameKeys, type Likeness } from "./find-person";
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
} from "./clients-file";

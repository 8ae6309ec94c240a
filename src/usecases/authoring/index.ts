export { blankPaper, questionBank, type BankLine } from "./bank";
export {
  bringStarters,
  composerView,
  dropDraft,
  duplicate,
  newQuestionnaire,
  rehearsal,
  saveDraft,
  type ComposerView,
  type RehearsalView,
  type SaveDraftError,
} from "./drafts";
export { exportXliff } from "./languages";
export {
  exportQuestionnaire,
  handOff,
  library,
  questionnaireView,
  type ContentLine,
  type LibraryLine,
  type Starters,
  type QuestionnaireView,
} from "./library";
export { shareQuestionnaire } from "./sharing";
export { putInUse, removeDraft, retire, type PutInUseError } from "./put-in-use";
export { importQuestionnaire, type ImportError } from "./take-in";
export { librarySheet, newWorksheet, type WorksheetError } from "./worksheet";
export { putStanding, removeStanding, standingPackets, type StandingPackets } from "./standing";
export type { BlankPaper } from "../../adapters/blank-paper";
export { atDesk, takeOverDraft, type Desk } from "./desk";

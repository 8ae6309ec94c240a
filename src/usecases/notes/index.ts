export { beginNote, bringIntoNote, layOutNote } from "./begin";
export { addToNote, cosignNote, finishNote, linkNote, type FinishError } from "./finish";
export { findNotes, type FoundNotes } from "./find";
export { noteHistory, restoreNote, type NoteHistory } from "./history";
export { dropLayout, keepLayout, noteLayouts, type LayoutError, type LayoutLine, type NoteLayouts } from "./layouts";
export { noteView, type NoteView, type VisitLine } from "./note-view";
export { atNote, saveNote, type NoteDesk, type SaveError as SaveNoteError } from "./save";
export { takeOutNote, type NoteOut } from "./take-out";
export { shareTakeHome, takeHomeView, withdrawTakeHome, type ShareError, type TakeHomeView } from "./take-home";

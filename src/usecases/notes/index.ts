export { draftNote, noteView, saveNote, type NoteView } from "./note";

export { draft, noteView, saveNote, type NoteView } from "./note";

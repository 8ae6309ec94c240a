export { draft, draftSchema, noteView, saveNote, saveNoteSchema, type NoteView } from './note';

export { draftNote, quotable, type NoteBlock, type OwnWords, type QuotedAnswer, type ReturnedPart } from "./draft";
export { startingLayouts, type NoteLayout, type NotePick } from "./layout";

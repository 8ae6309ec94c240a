export * from "./chain";
export { journalActions, journalWords, type JournalAction } from "./journal-actions";

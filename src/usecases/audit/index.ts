export { checkJournal, journalView, rowsAtOnce, type JournalProgress, type JournalView } from "./journal";

export { journalView, type JournalView } from "./journal";

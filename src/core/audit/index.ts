export * from "./chain";
export { journalActions, journalWords, type JournalAction } from "./journal-actions";
export { anchorText, readAnchor, type Anchor } from "./anchor";
export { actionsOfKind, journalKindOf, journalKinds, journalKindWords, type JournalKind } from "./journal-kinds";

export {
  isEmptyDocument,
  isOpen,
  isSafeAddress,
  measuresIn,
  paragraph,
  quotesIn,
  readNote,
  readTakeHome,
  wordsOf,
  type DocumentProblem,
  type Inline,
  type NoteBlock,
  type NoteDocument,
  type PlainBlock,
  type TakeHomeDocument,
} from "./document";
export {
  linesOf,
  measureWords,
  plainText,
  underHeadings,
  type Brought,
  type MeasureFact,
  type NoteContent,
  type NoteLine,
  type Quote,
  type Run,
} from "./content";
export { compareVersions, type ComparedLine } from "./compare";
export {
  besidePage,
  chartKey,
  draftNote,
  habitOf,
  laidOutAnew,
  quotable,
  quoteKey,
  type DraftFacts,
  type DraftSource,
  type QuotedAnswer,
  type ReturnedPart,
} from "./draft";
export { contentOf } from "./earlier";
export { layoutById, startingLayouts, type LayoutSection, type NoteLayout, type TakeHomeSection } from "./layout";
export { markdown } from "./markdown";
export { notePlaceholders, resolve, unknownPlaceholders, type NotePlaceholder, type NoteValues } from "./placeholders";

import type { Id, Instant } from "../shared";

/** Where the journal's chain stood at a moment, kept where somebody with the database alone cannot change it. */
export interface KeptHead {
  readonly practiceId: Id<"Practice">;
  readonly seq: number;
  readonly hash: string;
  readonly at: Instant;
  /** Over all of it, under a key. */
  readonly mark: string;
}
/** That somebody was erased, kept outside the database. */
export interface KeptErasure {
  readonly clientId: Id<"Client">;
  readonly staffId: Id<"Staff">;
  readonly by: string;
  readonly at: Instant;
  /** Over all of it, under a key. */
  readonly mark: string;
}
/** What is wrong with a journal. */
export type JournalFault =
  /** A row's number, hash or mark does not fit. */
  | "row-changed"
  /** Its number does not follow on the one before it. */
  | "row-missing"
  /** The chain ends before where it had come. */
  | "cut-off"
  /** It went another way than was kept outside. */
  | "other-than-kept"
  /** What is in the chart is not what the row says was added. */
  | "chart-changed"
  | "signature-changed"
  /** The chart or the signatures hold rows that the journal does not know. */
  | "unknown-rows";
export interface JournalBreak {
  /** The first row that does not fit. */
  readonly seq: number;
  readonly fault: JournalFault;
}
export const journalFaultWords: Readonly<Record<JournalFault, string>> = {
  "row-changed": "the row was changed, or written by somebody without the key",
  "row-missing": "a row is missing before it",
  "cut-off": "the journal was longer; its end was cut off",
  "other-than-kept": "the journal up to here is another one than was kept outside the database",
  "chart-changed": "the chart no longer holds what this row says was added",
  "signature-changed": "the signature is no longer the one this row speaks of",
  "unknown-rows": "the chart or the signatures hold something that the journal knows nothing of",
};

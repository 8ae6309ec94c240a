import type { Id, Instant } from "../shared";

/**
 * What a field or a row holds. Numbers, dates and yes/no are kept as the text they are shown as, dates as YYYY-MM-DD.
 */
export type ChartValue = string;
export type RowValue = Readonly<Record<string, string>>;

/** Where a value came from. */
export type EntrySource =
  | { readonly kind: "answer"; readonly partId: string; readonly key: string; readonly questionnaire: string }
  | { readonly kind: "staff"; readonly reason: string };

/** What one entry does to the chart. */
export type EntryChange =
  | { readonly kind: "set"; readonly field: string; readonly value: ChartValue }
  | { readonly kind: "row"; readonly field: string; readonly row: string; readonly value: RowValue }
  | { readonly kind: "end-row"; readonly field: string; readonly row: string };

/** Takes back a posting, or the one entry of it whose `seq` is given. */
export interface EntryReversal {
  readonly kind: "reverse";
  readonly posting: Id<"Posting">;
  readonly entry?: number | undefined;
}

/**
 * One line of the ledger. `seq` grows by one in the order of writing within a client. Entries of one posting share
 * its id; a posting is undone by a later entry of kind `reverse` that names it: as a whole, or the one entry whose `seq`
 * it gives. Nothing is edited or deleted.
 */
export interface ChartEntry {
  readonly seq: number;
  readonly posting: Id<"Posting">;
  readonly at: Instant;
  readonly by: string;
  readonly source: EntrySource;
  readonly change: EntryChange | EntryReversal;
}

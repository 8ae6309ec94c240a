import { rowWords, type ChartField } from "./fields";
import type { ChartEntry, ChartValue, EntrySource, RowValue } from "./entries";
import type { Instant } from "../shared";

/** A value with its past. `reversed` entries stay in the history, struck through, and do not count. */
export interface Dated<T> {
  readonly value: T;
  readonly at: Instant;
  readonly by: string;
  readonly source: EntrySource;
  readonly posting: string;
  /** Of the entry. */
  readonly seq: number;
  readonly reversed: boolean;
  readonly ended: boolean;
}
export interface FieldState {
  readonly current: Dated<ChartValue> | undefined;
  /** Newest first, the current one included. */
  readonly history: readonly Dated<ChartValue>[];
}
export interface RowState {
  readonly row: string;
  readonly current: Dated<RowValue> | undefined;
  readonly history: readonly Dated<RowValue>[];
}
export interface Chart {
  readonly fields: Readonly<Record<string, FieldState>>;
  /** Rows of each list field, in the order they were first written; ended rows have no `current`. */
  readonly lists: Readonly<Record<string, readonly RowState[]>>;
  /** The seq of the last entry, 0 for an empty chart: what a decision was based on. */
  readonly revision: number;
}

const folded = new WeakMap<readonly ChartEntry[], Chart>();
/** The current chart is this fold and nothing else. Entries may come in any order; `seq` decides. Of one list it is made once. */
export function foldChart(entries: readonly ChartEntry[]): Chart {
  const there = folded.get(entries) ?? fold(entries);
  folded.set(entries, there);
  return there;
}
function fold(entries: readonly ChartEntry[]): Chart {
  const ordered = [...entries].sort((a, b) => a.seq - b.seq);
  const isReversed = reversals(ordered);
  const fields = new Map<string, Dated<ChartValue>[]>();
  const lists = new Map<string, Map<string, Dated<RowValue>[]>>();

  for (const entry of ordered) {
    const { change } = entry;
    if (change.kind === "reverse") continue;
    const mark = {
      at: entry.at,
      by: entry.by,
      source: entry.source,
      posting: entry.posting,
      seq: entry.seq,
      reversed: isReversed(entry),
    };
    if (change.kind === "set") {
      getOr(fields, change.field, () => []).unshift({ ...mark, value: change.value, ended: false });
    } else {
      const rows = getOr(lists, change.field, () => new Map<string, Dated<RowValue>[]>());
      const past = getOr(rows, change.row, () => []);
      past.unshift({
        ...mark,
        value: change.kind === "row" ? change.value : (past[0]?.value ?? {}),
        ended: change.kind === "end-row",
      });
    }
  }
  return {
    revision: ordered.at(-1)?.seq ?? 0,
    fields: Object.fromEntries([...fields].map(([key, history]) => [key, { current: latest(history), history }])),
    lists: Object.fromEntries(
      [...lists].map(([key, rows]) => [
        key,
        [...rows].map(([row, history]) => ({ row, current: latest(history), history })),
      ]),
    ),
  };
}

/** Which entries are undone, whatever the order they are asked for in. */
export function reversals(entries: readonly ChartEntry[]): (entry: ChartEntry) => boolean {
  const postings = new Set<string>();
  const single = new Set<number>();
  for (const { change } of entries) {
    if (change.kind !== "reverse") continue;
    if (change.entry === undefined) postings.add(change.posting);
    else single.add(change.entry);
  }
  return ({ posting, seq }) => postings.has(posting) || single.has(seq);
}

function latest<T>(history: readonly Dated<T>[]): Dated<T> | undefined {
  const top = history.find((h) => !h.reversed);
  return top && !top.ended ? top : undefined;
}

function getOr<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  let value = map.get(key);
  if (value === undefined) map.set(key, (value = make()));
  return value;
}

export const valueOn = (chart: Chart, field: string): ChartValue | undefined => chart.fields[field]?.current?.value;

/** Rows that stand now. */
export const rowsOn = (chart: Chart, field: string): { row: string; value: Dated<RowValue> }[] =>
  (chart.lists[field] ?? []).flatMap((r) => (r.current ? [{ row: r.row, value: r.current }] : []));

/** What stands in a field now, in words, each with where it came from: one value, or the rows of a list. */
export function standingIn(
  chart: Chart,
  field: ChartField,
): { readonly text: string; readonly dated: Dated<ChartValue | RowValue> }[] {
  if (field.kind === "rows")
    return rowsOn(chart, field.key).map(({ value }) => ({ text: rowWords(field, value.value), dated: value }));
  const current = chart.fields[field.key]?.current;
  return current ? [{ text: current.value, dated: current }] : [];
}
/** The same as one text; empty where nothing stands there. */
export const wordsIn = (chart: Chart, field: ChartField): string =>
  standingIn(chart, field)
    .map(({ text }) => text)
    .join("; ");

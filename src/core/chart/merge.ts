import type { EntryChange, RowValue } from "./entries";
import type { ChartField } from "./fields";
import { rowsOn, valueOn, type Chart } from "./fold";

/** A value or row of a chart that goes into another one's, laid beside what is there. */
export interface MergeLine {
  /** The field's key, and for a row its own. */
  readonly id: string;
  readonly field: ChartField;
  /** `only-there`: the other chart has nothing; `differs`: somebody has to decide. */
  readonly status: "only-there" | "differs";
  /** What stands in the chart that is kept; undefined where nothing does. */
  readonly kept: string | RowValue | undefined;
  /** The row it stands in. */
  readonly keptRow: string | undefined;
  readonly gone: string | RowValue;
}
const same = (a: string, b: string): boolean => plain(a) === plain(b);
const plain = (text: string): string => text.normalize("NFKC").trim().replace(/\s+/g, " ").toLowerCase();
const sameRow = (a: RowValue, b: RowValue): boolean =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].every((key) => same(a[key] ?? "", b[key] ?? ""));

/** What the chart that goes has, and the one that is kept has not or has otherwise; in the order of the fields. */
export function mergeLines(kept: Chart, gone: Chart, fields: readonly ChartField[]): MergeLine[] {
  return fields.flatMap((field): MergeLine[] => {
    if (field.kind !== "rows") {
      const [there, other] = [valueOn(kept, field.key) ?? "", valueOn(gone, field.key) ?? ""];
      if (other.trim() === "" || same(there, other)) return [];
      const empty = there.trim() === "";
      return [
        {
          id: field.key,
          field,
          status: empty ? "only-there" : "differs",
          kept: empty ? undefined : there,
          keptRow: undefined,
          gone: other,
        },
      ];
    }
    const there = rowsOn(kept, field.key);
    return rowsOn(gone, field.key).flatMap(({ row, value: { value } }): MergeLine[] => {
      const twin = there.find((one) => same(one.value.value[field.matchOn] ?? "", value[field.matchOn] ?? ""));
      if (twin && sameRow(twin.value.value, value)) return [];
      return [
        {
          id: `${field.key} ${row}`,
          field,
          status: twin ? "differs" : "only-there",
          kept: twin?.value.value,
          keptRow: twin?.row,
          gone: value,
        },
      ];
    });
  });
}

/**
 * The entries that bring over what is only there, and of what differs what was taken.
 *
 * @returns undefined where something that differs is not decided
 */
export function mergeChanges(
  lines: readonly MergeLine[],
  decided: Readonly<Record<string, "keep" | "take">>,
  newRow: () => string,
): readonly EntryChange[] | undefined {
  if (lines.some(({ id, status }) => status === "differs" && decided[id] === undefined)) return undefined;
  return lines
    .filter(({ id, status }) => (decided[id] ?? (status === "only-there" ? "take" : "keep")) === "take")
    .map(({ field, gone, keptRow }) =>
      typeof gone === "string"
        ? { kind: "set", field: field.key, value: gone }
        : { kind: "row", field: field.key, row: keptRow ?? newRow(), value: gone },
    );
}

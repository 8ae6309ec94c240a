import fc from "fast-check";
import { expect, it } from "vitest";
import {
  builtInFields,
  foldChart,
  mergeChanges,
  mergeLines,
  rowsOn,
  valueOn,
  type ChartEntry,
  type EntryChange,
} from "../../src/core/chart";
import { instant, type Id } from "../../src/core/shared";

const ledger = (changes: readonly ChartEntry["change"][], posting = "p", from = 0): ChartEntry[] =>
  changes.map((change, index) => ({
    seq: from + index + 1,
    posting: posting as Id<"Posting">,
    at: instant(0),
    by: "Maren",
    source: { kind: "staff", reason: "" },
    change,
  }));
const facts = ["first-name", "email", "address", "pronouns"];
const rowField = builtInFields.find((field) => field.kind === "rows")!;
const value = fc.constantFrom("", "a", "A ", "b", "c");
const change: fc.Arbitrary<EntryChange> = fc.oneof(
  fc.record({ kind: fc.constant("set" as const), field: fc.constantFrom(...facts), value }),
  fc.record({
    kind: fc.constant("row" as const),
    field: fc.constant(rowField.key),
    row: fc.constantFrom("1", "2", "3"),
    value: fc.record({ [rowField.kind === "rows" ? rowField.matchOn : ""]: value, dose: value }),
  }),
);
const plain = (text: string): string => text.trim().toLowerCase();

it("two charts made one hold what only one had and what was decided, lose nothing unseen, and are as before once it is reversed", () => {
  fc.assert(
    fc.property(
      fc.array(change, { maxLength: 8 }),
      fc.array(change, { maxLength: 8 }),
      fc.infiniteStream(fc.constantFrom("keep" as const, "take" as const)),
      (there, other, choices) => {
        const entries = ledger(there);
        const [kept, gone] = [foldChart(entries), foldChart(ledger(other))];
        const lines = mergeLines(kept, gone, builtInFields);
        const differing = lines.filter(({ status }) => status === "differs");
        if (differing.length > 0) expect(mergeChanges(lines, {}, () => "new")).toBeUndefined();
        const decided = Object.fromEntries(differing.map(({ id }) => [id, choices.next().value!]));
        let rows = 0;
        const changes = mergeChanges(lines, decided, () => `new ${++rows}`)!;
        const merged = foldChart([...entries, ...ledger(changes, "merge", entries.length)]);
        for (const key of facts) {
          const [mine, theirs] = [valueOn(kept, key) ?? "", valueOn(gone, key) ?? ""];
          const expected = () => {
            if (theirs.trim() === "" || plain(mine) === plain(theirs)) return mine;
            return mine.trim() === "" || decided[key] === "take" ? theirs : mine;
          };
          expect(valueOn(merged, key) ?? "", key).toBe(expected());
        }
        // No row of either is lost: it stands, or something it is the same as, or what it differs with was kept.
        expect(rowsOn(merged, rowField.key).length).toBeGreaterThanOrEqual(rowsOn(kept, rowField.key).length);
        const on = rowField.kind === "rows" ? rowField.matchOn : "";
        for (const { value: row } of rowsOn(gone, rowField.key))
          expect(
            rowsOn(merged, rowField.key).some((one) => plain(one.value.value[on]!) === plain(row.value[on]!)),
          ).toBe(true);
        const undone = foldChart([
          ...entries,
          ...ledger(changes, "merge", entries.length),
          ...ledger([{ kind: "reverse", posting: "merge" as Id<"Posting"> }], "undo", entries.length + changes.length),
        ]);
        for (const key of facts) expect(valueOn(undone, key)).toBe(valueOn(kept, key));
        expect(rowsOn(undone, rowField.key).map(({ value: row }) => row.value)).toEqual(
          rowsOn(kept, rowField.key).map(({ value: row }) => row.value),
        );
      },
    ),
  );
});

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  builtInFields,
  decide,
  foldChart,
  incomingOf,
  likeName,
  reconcileLines,
  rowsOn,
  valueOn,
  type ChartEntry,
  type Choice,
  type Decision,
  type EntryDraft,
  type ReconcileLine,
} from "../../src/core/chart";
import type { Answers, AnswerValue } from "../../src/core/questionnaire";
import { instant, type Id } from "../../src/core/shared";
import { fromRepository } from "../support/questionnaires";

// Random charts and random answers through the whole of Reconcile: lines, decisions, entries, fold, and lines again.
const questionnaire = fromRepository("adult-intake");
const at = instant("2026-11-25T08:00:00Z");
const words = fc.constantFrom("Ada", "ada ", "Bo", "Bo  Li", "Çınar", "ليلى");
const text = (value: string): AnswerValue[] => [{ type: "string", value }];
const plainKeys = ["first-name", "last-name", "occupation", "support", "main-concern", "goals"] as const;

const row = fc.record({ name: words, dose: fc.option(fc.constantFrom("1", "2"), { nil: undefined }) });
const rowsOf = fc.uniqueArray(row, { maxLength: 4, selector: (r) => r.name.trim().toLowerCase().replace(/\s+/g, " ") });
const person = fc.record({
  fields: fc.record(
    Object.fromEntries(plainKeys.map((k) => [k, words])) as Record<(typeof plainKeys)[number], typeof words>,
    { requiredKeys: [] },
  ),
  medicines: rowsOf,
});
type Person = {
  fields: Partial<Record<(typeof plainKeys)[number], string>>;
  medicines: { name: string; dose: string | undefined }[];
};

const entry = (seq: number, posting: string, change: ChartEntry["change"]): ChartEntry => ({
  seq,
  posting: posting as Id<"Posting">,
  at,
  by: "Maren",
  source: { kind: "staff", reason: "test" },
  change,
});
function chartOf(someone: Person): ChartEntry[] {
  const changes: ChartEntry["change"][] = [
    ...Object.entries(someone.fields).map(([field, value]) => ({ kind: "set" as const, field, value })),
    ...someone.medicines.map((m, i) => ({
      kind: "row" as const,
      field: "medicines",
      row: `m${i}`,
      value: { name: m.name, ...(m.dose ? { dose: m.dose } : {}) },
    })),
  ];
  return changes.map((c, i) => entry(i + 1, "start", c));
}
function answersOf(someone: Person): Answers {
  const values: Record<string, AnswerValue[]> = Object.fromEntries(
    Object.entries(someone.fields).map(([k, v]) => [k, text(v)]),
  );
  values["has-medicines"] = [{ type: "boolean", value: someone.medicines.length > 0 }];
  someone.medicines.forEach((m, i) => {
    values[`medicines:r${i}/medicine-name`] = text(m.name);
    if (m.dose) values[`medicines:r${i}/medicine-dose`] = text(m.dose);
  });
  return { values, rows: { medicines: someone.medicines.map((_, i) => `r${i}`) } };
}
const linesFor = (entries: readonly ChartEntry[], answers: Answers): ReconcileLine[] =>
  reconcileLines(foldChart(entries), incomingOf(questionnaire, answers, builtInFields));
let made = 0;
const drafts = (lines: readonly ReconcileLine[], choose: (line: ReconcileLine) => Choice): EntryDraft[] => {
  const result = decide(
    lines,
    lines.map((l): Decision => ({
      line: l.id,
      choice: choose(l),
      ...(choose(l) === "edit" ? { edited: l.incoming ?? l.onFile!.value } : {}),
    })),
    { partId: "p", questionnaire: questionnaire.title },
    () => `n${++made}`,
  );
  if (!result.ok) throw new Error(JSON.stringify(result.error));
  return result.value;
};
const posted = (entries: readonly ChartEntry[], written: readonly EntryDraft[], posting = "post"): ChartEntry[] => [
  ...entries,
  ...written.map((d, i) => entry(entries.length + 1 + i, posting, d.change)),
];
const norm = (v: string): string => v.trim().replace(/\s+/g, " ").toLowerCase();
const names = (entries: readonly ChartEntry[]): string[] =>
  rowsOn(foldChart(entries), "medicines")
    .map((r) => norm(r.value.value["name"]!))
    .sort();
const both = fc.tuple(person, person) as fc.Arbitrary<[Person, Person]>;

describe("reconcile, for any chart and any answers", () => {
  it("keeping everything writes nothing", () => {
    fc.assert(
      fc.property(both, ([file, came]) => {
        expect(drafts(linesFor(chartOf(file), answersOf(came)), () => "keep")).toEqual([]);
      }),
    );
  });
  it("taking everything makes the chart say what came in, and nothing differs any more", () => {
    fc.assert(
      fc.property(both, ([file, came]) => {
        const entries = chartOf(file);
        const answers = answersOf(came);
        const after = posted(
          entries,
          drafts(linesFor(entries, answers), () => "take"),
        );
        expect(linesFor(after, answers).filter((l) => l.status !== "same")).toEqual([]);
        for (const key of plainKeys)
          expect(norm(valueOn(foldChart(after), key) ?? "")).toBe(norm(came.fields[key] ?? file.fields[key] ?? ""));
        // Without any, they said "no" to the question before: taking that ends what is on file.
        expect(names(after)).toEqual(came.medicines.map((m) => norm(m.name)).sort());
      }),
      { numRuns: 300 },
    );
  });
  it("writing it oneself with the words that came in leads to the same chart as taking them", () => {
    fc.assert(
      fc.property(both, ([file, came]) => {
        const entries = chartOf(file);
        const lines = linesFor(entries, answersOf(came));
        const result = (choice: Choice) =>
          foldChart(
            posted(
              entries,
              drafts(lines, (l) =>
                ["not-mentioned", "denied"].includes(l.status) || !l.choices.includes(choice) ? "keep" : choice,
              ),
            ),
          );
        const [edited, taken] = [result("edit"), result("take")];
        for (const key of plainKeys) expect(norm(valueOn(edited, key) ?? "")).toBe(norm(valueOn(taken, key) ?? ""));
        expect(rowsOn(edited, "medicines").map((r) => r.value.value)).toEqual(
          rowsOn(taken, "medicines").map((r) => r.value.value),
        );
      }),
    );
  });
  it("lays each row on file and each row that came in down exactly once", () => {
    fc.assert(
      fc.property(both, ([file, came]) => {
        const rows = linesFor(chartOf(file), answersOf(came)).filter((l) => l.shape === "row");
        if (came.medicines.length === 0) {
          // A "no" against what is on file: each is a line that somebody has to decide, and neither side is suggested.
          expect(rows.map((l) => [l.status, l.incoming, l.suggested, l.onFile?.row])).toEqual(
            file.medicines.map((_, i) => ["denied", "No", undefined, `m${i}`]),
          );
          return;
        }
        expect(rows.filter((l) => l.incoming !== undefined)).toHaveLength(came.medicines.length);
        const onFile = rows.flatMap((l) => l.onFile?.row ?? []);
        expect([...onFile].sort()).toEqual(file.medicines.map((_, i) => `m${i}`).sort());
        for (const line of rows)
          if (line.onFile && line.incoming)
            expect(
              likeName((line.onFile.value as { name: string }).name, (line.incoming as { name: string }).name),
            ).toBeGreaterThanOrEqual(0.8);
      }),
    );
  });
  it("keeping both loses neither", () => {
    fc.assert(
      fc.property(both, ([file, came]) => {
        const entries = chartOf(file);
        const after = posted(
          entries,
          drafts(linesFor(entries, answersOf(came)), (l) => (l.choices.includes("both") ? "both" : "keep")),
        );
        for (const key of ["occupation", "support", "main-concern", "goals"] as const) {
          const value = valueOn(foldChart(after), key) ?? "";
          if (file.fields[key]) expect(value).toContain(file.fields[key]);
          if (file.fields[key] && came.fields[key]) expect(norm(value)).toContain(norm(came.fields[key]));
        }
      }),
    );
  });
  it("reversed, the chart is what it was before, whatever was decided", () => {
    fc.assert(
      fc.property(both, fc.func(fc.nat(3)), ([file, came], pick) => {
        const entries = chartOf(file);
        const after = posted(
          entries,
          drafts(linesFor(entries, answersOf(came)), (l) => l.choices[pick(l.id) % l.choices.length]!),
        );
        const back = [...after, entry(after.length + 1, "undo", { kind: "reverse", posting: "post" as Id<"Posting"> })];
        for (const key of plainKeys) expect(valueOn(foldChart(back), key)).toBe(valueOn(foldChart(entries), key));
        expect(rowsOn(foldChart(back), "medicines").map((r) => r.value.value)).toEqual(
          rowsOn(foldChart(entries), "medicines").map((r) => r.value.value),
        );
      }),
    );
  });
});

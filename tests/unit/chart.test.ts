import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  ageOn,
  builtInFields,
  contactsOf,
  decide,
  fieldByKey,
  foldChart,
  incomingOf,
  reconcileLines,
  rowsOn,
  valueOn,
  type ChartEntry,
  type Decision,
  type EntryChange,
} from "../../src/core/chart";
import type { Answers, AnswerValue } from "../../src/core/questionnaire";
import { instant, type Id } from "../../src/core/shared";
import { fromRepository } from "../support/questionnaires";

const at = instant("2026-11-25T08:00:00Z");
const source = { kind: "staff", reason: "test" } as const;
const posting = (n: number): Id<"Posting"> => `p${n}` as Id<"Posting">;
const entriesOf = (postings: readonly (readonly EntryChange[] | { readonly undo: number })[]): ChartEntry[] => {
  let seq = 0;
  return postings.flatMap((p, n) => {
    const changes: readonly ChartEntry["change"][] = "undo" in p ? [{ kind: "reverse", posting: posting(p.undo) }] : p;
    return changes.map((change) => ({ seq: ++seq, posting: posting(n), at, by: "Maren", source, change }));
  });
};

describe("the ledger", () => {
  // Model: replay only what was never reversed into plain maps. The fold must agree after any sequence of acts.
  const change: fc.Arbitrary<EntryChange> = fc.oneof(
    fc.record({
      kind: fc.constant("set" as const),
      field: fc.constantFrom("phone", "goals"),
      value: fc.constantFrom("a", "b", "c"),
    }),
    fc.record({
      kind: fc.constant("row" as const),
      field: fc.constant("medicines"),
      row: fc.constantFrom("r1", "r2"),
      value: fc.record({ name: fc.constantFrom("x", "y") }),
    }),
    fc.record({
      kind: fc.constant("end-row" as const),
      field: fc.constant("medicines"),
      row: fc.constantFrom("r1", "r2"),
    }),
  );
  const acts = fc.array(
    fc.oneof(
      { weight: 3, arbitrary: fc.array(change, { minLength: 1, maxLength: 3 }) },
      { weight: 1, arbitrary: fc.record({ undo: fc.nat(8) }) },
    ),
    { maxLength: 12 },
  );

  it("folds to what a replay of the postings that stand gives, whatever the order of reading", () => {
    fc.assert(
      fc.property(acts, fc.func(fc.integer()), (list, shuffle) => {
        const entries = entriesOf(list);
        const gone = new Set(list.flatMap((p) => ("undo" in p ? [p.undo] : [])));
        const fields = new Map<string, string>();
        const rows = new Map<string, string>();
        list.forEach((p, n) => {
          if ("undo" in p || gone.has(n)) return;
          for (const c of p) {
            if (c.kind === "set") fields.set(c.field, c.value);
            else if (c.kind === "row") rows.set(c.row, c.value["name"]!);
            else rows.delete(c.row);
          }
        });
        const chart = foldChart([...entries].sort((a, b) => shuffle(a) - shuffle(b)));
        for (const field of ["phone", "goals"]) expect(valueOn(chart, field)).toBe(fields.get(field));
        expect(Object.fromEntries(rowsOn(chart, "medicines").map((r) => [r.row, r.value.value["name"]]))).toEqual(
          Object.fromEntries(rows),
        );
        expect(chart.revision).toBe(entries.length);
        // Nothing is lost: every set stands in a history, reversed or not.
        const sets = list.flatMap((p) => ("undo" in p ? [] : p.filter((c) => c.kind === "set")));
        expect(Object.values(chart.fields).reduce((n, f) => n + f.history.length, 0)).toBe(sets.length);
      }),
      { numRuns: 500 },
    );
  });
  it("gives back the value under a reversed posting, and leaves a newer one alone", () => {
    const set = (value: string): EntryChange[] => [{ kind: "set", field: "phone", value }];
    expect(valueOn(foldChart(entriesOf([set("1"), set("2"), { undo: 1 }])), "phone")).toBe("1");
    expect(valueOn(foldChart(entriesOf([set("1"), set("2"), { undo: 0 }])), "phone")).toBe("2");
    const chart = foldChart(entriesOf([set("1"), { undo: 0 }]));
    expect([valueOn(chart, "phone"), chart.fields["phone"]!.history[0]!.reversed]).toEqual([undefined, true]);
  });
});

describe("reconcile", () => {
  const questionnaire = fromRepository("adult-intake");
  const text = (value: string): AnswerValue[] => [{ type: "string", value }];
  const answers: Answers = {
    rows: { medicines: ["a", "b"], allergies: [] },
    values: {
      "first-name": text("Inny"),
      "last-name": text(" halvorsen "),
      phone: text("020 7946 0315"),
      "has-medicines": [{ type: "boolean", value: true }],
      "has-conditions": [{ type: "boolean", value: false }],
      "medicines:a/medicine-name": text("SALBUTAMOL"),
      "medicines:a/medicine-dose": text("200 mcg"),
      "medicines:b/medicine-name": text("Iron"),
      "main-concern": text("Worry"),
      conditions: text("typed, then hidden"),
    },
  };
  const chart = foldChart(
    entriesOf([
      [
        { kind: "set", field: "first-name", value: "Ines" },
        { kind: "set", field: "last-name", value: "Halvorsen" },
        { kind: "set", field: "phone", value: "020 7946 0314" },
        { kind: "set", field: "main-concern", value: "Sleep" },
        { kind: "set", field: "goals", value: "Kept" },
        { kind: "row", field: "medicines", row: "m1", value: { name: "Salbutamol", dose: "100 mcg" } },
        { kind: "row", field: "medicines", row: "m2", value: { name: "Zinc" } },
      ],
    ]),
  );
  const lines = reconcileLines(chart, incomingOf(questionnaire, answers, builtInFields));
  const line = (id: string) => lines.find((l) => l.id === id)!;
  let made = 0;
  const decided = (given: Decision[]) =>
    decide(lines, given, { partId: "part", questionnaire: questionnaire.title }, () => `new${++made}`);
  const mustDecide = lines.filter((l) => l.suggested === undefined).map((l) => l.id);

  it("lays side by side only what was asked, answered and planned", () => {
    expect(lines.map((l) => [l.id, l.status])).toEqual([
      ["first-name", "differs"],
      ["last-name", "same"],
      ["phone", "differs"],
      ["medicines:a", "differs"],
      ["medicines:b", "new"],
      ["file:medicines:m2", "not-mentioned"],
      ["main-concern", "differs"],
    ]);
  });
  it("suggests keeping who they are, and asks where the plan says ask", () => {
    expect([
      line("first-name").suggested,
      line("phone").suggested,
      line("main-concern").suggested,
      line("medicines:a").suggested,
    ]).toEqual(["keep", "keep", undefined, undefined]);
    expect(line("first-name").choices).not.toContain("both");
  });
  it("posts nothing while a line is undecided, and names it", () => {
    expect(decided([])).toEqual({ ok: false, error: { reason: "undecided", lines: mustDecide } });
  });
  it("writes what was decided and nothing else; unanswered questions never blank a field", () => {
    const result = decided([
      { line: "medicines:a", choice: "take" },
      { line: "main-concern", choice: "both" },
      { line: "file:medicines:m2", choice: "take" },
      { line: "phone", choice: "edit", edited: " 020 7946 0999 " },
    ]);
    expect(result.ok && result.value.map((d) => d.change)).toEqual([
      { kind: "set", field: "phone", value: "020 7946 0999" },
      { kind: "row", field: "medicines", row: "m1", value: { name: "SALBUTAMOL", dose: "200 mcg" } },
      { kind: "row", field: "medicines", row: "new1", value: { name: "Iron" } },
      { kind: "end-row", field: "medicines", row: "m2" },
      { kind: "set", field: "main-concern", value: "Sleep\n\nWorry" },
    ]);
  });
  it("refuses what is not offered, unknown lines and empty edits", () => {
    const rest = mustDecide.map((l): Decision => ({ line: l, choice: "keep" }));
    expect(decided([...rest, { line: "first-name", choice: "both" }])).toMatchObject({
      error: { reason: "choice-not-offered", lines: ["first-name"] },
    });
    expect(decided([...rest, { line: "zz", choice: "keep" }])).toMatchObject({ error: { reason: "unknown-line" } });
    expect(decided([...rest, { line: "phone", choice: "edit", edited: "  " }])).toMatchObject({
      error: { reason: "empty-edit" },
    });
  });
  it("never changes an identity field without a decision, for any chart and answers", () => {
    const value = fc.constantFrom("", "Ada", "Bo", "ada ");
    fc.assert(
      fc.property(
        fc.record({ file: value, came: value, plan: fc.constantFrom("first-name", "last-name", "email") }),
        ({ file, came, plan }) => {
          const before = foldChart(entriesOf(file === "" ? [] : [[{ kind: "set", field: plan, value: file }]]));
          const own = reconcileLines(
            before,
            incomingOf(questionnaire, { rows: {}, values: came === "" ? {} : { [plan]: text(came) } }, builtInFields),
          );
          const kept = decide(
            own,
            own.filter((l) => l.suggested === undefined).map((l) => ({ line: l.id, choice: "keep" as const })),
            { partId: "p", questionnaire: "q" },
            () => "n",
          );
          expect(kept).toEqual({ ok: true, value: [] });
          if (came === "") expect(own).toEqual([]);
        },
      ),
    );
  });
});

describe("who they are", () => {
  it.each([
    ["2008-11-25", 18],
    ["2008-11-26", 17],
    ["2008-02-29", 18],
    ["1954-06-30", 72],
  ])("born %s is %i years old on 25 November 2026", (born, age) => {
    expect(ageOn(born, "2026-11-25")).toBe(age);
  });
  it("is reached the way they prefer, else the other way, else not at all", () => {
    expect(contactsOf({ email: "a@b.example", phone: "1" }, "text")?.channel).toBe("text");
    expect(contactsOf({ email: "a@b.example" }, "text")?.channel).toBe("email");
    expect(contactsOf({}, "email")).toBeUndefined();
  });
  it("has one definition of every field key", () => {
    expect(new Set(builtInFields.map((f) => f.key)).size).toBe(builtInFields.length);
    expect(fieldByKey("nobody")).toBeUndefined();
  });
});

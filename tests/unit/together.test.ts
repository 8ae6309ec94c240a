import type { FillPart } from "../../src/usecases/filling";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asksAgain, isFinishAddress, mergeRows } from "../../src/core/packet";
import { forClient, noAnswers, twinsOf, type Item, type Questionnaire } from "../../src/core/questionnaire";
import { holdsUntil, isDue } from "../../src/core/scheduling";
import { instant, type Id } from "../../src/core/shared";
import { minutesLeft, stepsOf } from "../../src/ui/fill/steps";
import { fromRepository, question } from "../support/questionnaires";

describe("rows changed by two people at once", () => {
  const rows = fc.uniqueArray(fc.constantFrom("a", "b", "c", "d", "e", "f"), { maxLength: 6 });
  it("keep what either added, lose what either took away, and say the same to both", () => {
    fc.assert(
      fc.property(rows, rows, rows, (base, mine, theirs) => {
        const merged = mergeRows(base, mine, theirs);
        const other = mergeRows(base, theirs, mine);
        for (const row of new Set([...base, ...mine, ...theirs])) {
          const wanted = base.includes(row)
            ? mine.includes(row) && theirs.includes(row)
            : mine.includes(row) || theirs.includes(row);
          expect(merged.includes(row), row).toBe(wanted);
        }
        expect([...merged].sort()).toEqual([...other].sort());
        expect(new Set(merged).size).toBe(merged.length);
        expect(mergeRows(base, mine, mine)).toEqual(mine);
        expect(mergeRows(base, base, theirs)).toEqual(theirs);
      }),
    );
  });
});

describe("a question asked twice", () => {
  const make = (items: readonly Item[]): Questionnaire => ({ ...fromRepository("phq-9"), items });
  const asked = (linkId: string, text: string, more: object = {}): Item =>
    ({ ...question(linkId, { type: "string" }), text, ...more }) as Item;
  const part = (id: string, items: readonly Item[]) => ({ id, questionnaire: make(items) });
  it("is known by its words, whatever their case and signs, in another questionnaire, in a section too", () => {
    const section = {
      linkId: "s",
      type: "group",
      text: "S",
      codes: [],
      required: false,
      repeats: false,
      items: [asked("b", "whom may  we call")],
    } as Item;
    expect([...twinsOf([part("p1", [asked("a", "Whom may we call?")]), part("p2", [section])])]).toEqual([
      ["p1 a", [{ part: "p2", key: "b" }]],
      ["p2 b", [{ part: "p1", key: "a" }]],
    ]);
  });
  it("is another one where its kind or options differ, it stands in rows, counts in a score, alarms, or is asked twice in one on purpose", () => {
    const none = (a: readonly Item[], b: readonly Item[]) =>
      expect(twinsOf([part("p1", a), part("p2", b)]).size).toBe(0);
    none([asked("a", "Same?")], [{ ...question("a", { type: "boolean" }), text: "Same?" } as Item]);
    none([asked("a", "Same?")], [asked("a", "Same?", { options: [{ value: { type: "string", value: "x" } }] })]);
    none(
      [asked("a", "Same?")],
      [
        {
          linkId: "g",
          type: "group",
          text: "G",
          codes: [],
          required: false,
          repeats: true,
          items: [asked("b", "Same?")],
        } as Item,
      ],
    );
    none([asked("a", "Same?", { alert: { from: 1, message: "x" } })], [asked("a", "Same?")]);
    none([asked("a", "Left knee"), asked("b", "Left knee")], [asked("a", "Left knee")]);
    none(
      [asked("a", "Same?")],
      [
        asked("a", "Same?"),
        {
          ...question("t", { type: "integer" }),
          text: "Total",
          score: { method: "sum", items: ["a"], fewestAnswered: 1, proration: "none", bands: [] },
        } as Item,
      ],
    );
    // The eight and nine items of two published measures share words; each is to be answered as it stands.
    expect(
      twinsOf([
        { id: "x", questionnaire: fromRepository("phq-9") },
        { id: "y", questionnaire: fromRepository("phq-9") },
      ]).size,
    ).toBeLessThanOrEqual(2);
  });
});

describe("the minutes that are left", () => {
  const parts = (["adult-intake", "consent-to-care", "phq-9"] as const).map((name): FillPart => ({
    id: name as unknown as Id<"Part">,
    questionnaire: forClient(fromRepository(name)),
    answers: noAnswers,
    signed: {},
    onPaper: [],
    prefilled: [],
    kept: {},
  }));
  it("go down from step to step and with every answer, and end at none", () => {
    const steps = stepsOf(parts);
    const left = steps.map((_, at) => minutesLeft(steps, at, parts));
    expect(left[0]).toBeGreaterThan(3);
    expect([...left].sort((a, b) => b - a)).toEqual(left);
    expect(left.at(-1)).toBe(0);
    const answered = parts.map((part) => ({
      ...part,
      answers: {
        ...noAnswers,
        values: Object.fromEntries(
          ["occupation", "sleep-hours", "main-concern", "goals", "since", "else"].map((k) => [
            k,
            [{ type: "string" as const, value: "x" }],
          ]),
        ),
      },
    }));
    expect(minutesLeft(steps, 0, answered)).toBeLessThan(left[0]!);
  });
});

describe("choosing whom to write to", () => {
  const id = <N extends string>(text: string) => text as unknown as Id<N>;
  const today = "2026-11-25";
  const due = (when: "over" | "never" | "soon", months = 12, days = 30) => ({
    questionnaireId: id<"Questionnaire">("q"),
    months,
    when,
    days,
  });
  it("goes by the last return to the day: holds on its last one, is over the day after, and runs out within so many", () => {
    expect(holdsUntil("2024-02-29", 12)).toBe("2025-02-28");
    const over = due("over");
    expect(["2025-11-25", "2025-11-24", undefined].map((last) => isDue(last, over, today))).toEqual([
      false,
      true,
      true,
    ]);
    expect([undefined, "2026-01-01"].map((last) => isDue(last, due("never"), today))).toEqual([true, false]);
    const soon = due("soon");
    expect(
      ["2025-11-24", "2025-11-25", "2025-12-25", "2025-12-26", undefined].map((last) => isDue(last, soon, today)),
    ).toEqual([false, true, true, false, false]);
  });
});

describe("a link that asks each session", () => {
  const packet = { repeats: true, state: "returned" as const, expiresAt: instant("2026-12-31T00:00:00Z") };
  it("asks on another day after it came back, and not once its time is over", () => {
    const now = instant("2026-11-25T08:00:00Z");
    expect(
      [
        ["2026-11-24", packet],
        ["2026-11-25", packet],
        [undefined, packet],
        ["2026-11-24", { ...packet, repeats: false }],
        ["2026-11-24", { ...packet, state: "withdrawn" as const }],
        ["2026-11-24", { ...packet, expiresAt: now }],
      ].map(([day, p]) => asksAgain(p as typeof packet, now, day as string | undefined, "2026-11-25")),
    ).toEqual([true, false, false, false, false, false]);
  });
});

it("an address to go on to is https, with a host of two parts, and nothing that could mislead", () => {
  expect(
    ["https://rooms.example", "https://a.b.example:8443/x?y=1#z", "https://bücher.example/"].map(isFinishAddress),
  ).toEqual([true, true, true]);
  expect(
    [
      "http://rooms.example",
      "https://rooms",
      "https://me@rooms.example",
      "https://rooms.example\\@evil.example",
      "javascript:alert(1)",
      "//rooms.example",
      "https://rooms.example /x",
      "",
      `https://rooms.example/${"x".repeat(500)}`,
    ].map(isFinishAddress),
  ).toEqual(Array<boolean>(9).fill(false));
});

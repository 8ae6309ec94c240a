import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  builtInFields,
  decide,
  emptyPlan,
  fedTwice,
  fieldByKey,
  foldChart,
  inChartUnit,
  incomingOf,
  isNarrative,
  likeName,
  mayRedirect,
  planOf,
  readAmount,
  reconcileLines,
  remembered,
  remarksLine,
  valueOn,
  withPlan,
  type ChartEntry,
  type PostingPlan,
} from "../../src/core/chart";
import {
  emptyQuestionnaire,
  newLine,
  type Answers,
  type Item,
  type LineKind,
  type Questionnaire,
} from "../../src/core/questionnaire";
import type { Id, Instant } from "../../src/core/shared";

const line = (kind: LineKind, linkId: string, text: string, rest: Partial<Item> = {}): Item =>
  ({ ...newLine(kind, linkId), text, ...rest }) as Item;
const asked = (...items: readonly Item[]): Questionnaire => ({
  ...emptyQuestionnaire("urn:uuid:1", "Before we meet", "intake", "s"),
  items,
});
const goes = (questionnaire: Questionnaire, plan: PostingPlan = emptyPlan, memory = {}): Record<string, string> =>
  Object.fromEntries(
    planOf(questionnaire, builtInFields, plan, memory)
      .filter(({ kind }) => kind !== "remarks")
      .map(({ linkId, target, why }) => [linkId, target ? `${target.field} (${why})` : why]),
  );

describe("a posting plan", () => {
  const intake = asked(
    line("long-text", "a", "What brings you here?"),
    line("whole-number", "b", "How many hours do you sleep?"),
    line("whole-number", "c", "Hours of sleep at the weekend?"),
    line("yes-no", "gate", "Do you have allergies?"),
    line("short-text", "d", "What is your favourite colour?"),
    line("short-text", "e", "Whatever", { posting: { field: "goals", rule: "replace" } } as Partial<Item>),
    line("decimal", "w", "x", { codes: [{ system: "http://loinc.org", code: "29463-7" }] }),
  );
  it("stands complete from the start, proposes a fact once, and lets all else stay in the return", () => {
    expect(goes(intake)).toEqual({
      a: "main-concern (words)",
      b: "sleep-hours (words)",
      c: "none",
      gate: "none",
      d: "none",
      e: "goals (bound)",
      w: "weight (code)",
    });
  });
  it("holds what somebody moved, whatever is proposed, and carries it over to another version, asking only about what is new", () => {
    const plan: PostingPlan = {
      lines: { d: { field: "hobbies", rule: "add" }, a: null, e: null },
      seen: planOf(intake, builtInFields).map((one) => one.linkId),
      order: [],
    };
    const next = asked(...intake.items, line("long-text", "new", "Who supports you?"));
    expect(goes(next, plan)).toMatchObject({ a: "hand", d: "hobbies (hand)", e: "hand", new: "support (words)" });
    expect(
      planOf(next, builtInFields, plan)
        .filter((one) => one.isNew)
        .map((one) => one.linkId),
    ).toEqual(["new"]);
    // Another questionnaire learns from it where the same words went.
    const memory = remembered(planOf(intake, builtInFields, plan));
    expect(goes(asked(line("short-text", "z", "what is your favourite COLOUR")), emptyPlan, memory)).toEqual({
      z: "hobbies (earlier)",
    });
  });
  it("shows which facts are fed by two", () => {
    const both = { field: "sleep-hours", rule: "ask" } as const;
    const plan: PostingPlan = { lines: { b: both, c: both }, seen: [], order: [] };
    expect(fedTwice(planOf(intake, builtInFields, plan), builtInFields)).toEqual(["sleep-hours"]);
    expect(fedTwice(planOf(intake, builtInFields), builtInFields)).toEqual([]);
  });
  it("puts a list's answers into the columns its questions ask for, and into none by chance", () => {
    const questions = [
      line("short-text", "m1", "Which medicine?"),
      line("short-text", "m2", "Strength"),
      line("short-text", "m3", "Who prescribed it?"),
      line("short-text", "m4", "Times a day"),
    ];
    const columns = (items: readonly Item[]) => {
      const list = asked(line("repeating", "list", "Your medicines", { items } as Partial<Item>));
      const { items: planned } = withPlan(list, planOf(list, builtInFields), builtInFields);
      return (planned[0] as { items: readonly { posting?: { field: string } }[] }).items.map((i) => i.posting?.field);
    };
    expect(columns(questions)).toEqual(["name", "dose", undefined, "often"]);
    // Where no words say so, rows are matched on what is asked first; where the questions say it themselves, as they say.
    expect(columns([line("short-text", "a", "It"), line("short-text", "b", "Colour")])).toEqual(["name", undefined]);
    const bound = { ...questions[2]!, posting: { field: "reason", rule: "ask" } } as Item;
    expect(columns([questions[0]!, bound])).toEqual([undefined, "reason"]);
  });
  it("lets an answer go elsewhere this once only where it says something there", () => {
    const may = (from: string, to: string) =>
      mayRedirect(fieldByKey(from, builtInFields)!, fieldByKey(to, builtInFields)!);
    expect([may("occupation", "goals"), may("weight", "goals"), may("sleep-hours", "phq9-total")]).toEqual([
      true,
      true,
      true,
    ]);
    for (const [from, to] of [
      ["goals", "weight"],
      ["weight", "height"],
      ["goals", "emergency-phone"],
      ["goals", "medicines"],
      ["goals", "first-name"],
      ["first-name", "preferred-name"],
      ["goals", "goals"],
    ] as const)
      expect(may(from, to), `${from} to ${to}`).toBe(false);
  });
  it("lets a new address take the place of the old, and offers no name they like in the place of one they said", () => {
    const who = asked(
      line("short-text", "name", "x", { posting: { field: "first-name", rule: "ask" } } as Partial<Item>),
      line("long-text", "home", "Where do you live?"),
    );
    const set = (seq: number, field: string, value: string): ChartEntry => ({
      seq,
      posting: "p" as Id<"Posting">,
      at: "2026-11-01T08:00:00Z" as Instant,
      by: "Maren",
      source: { kind: "staff", reason: "" },
      change: { kind: "set", field, value },
    });
    const planned = withPlan(who, planOf(who, builtInFields), builtInFields);
    const text = (value: string) => [{ type: "string" as const, value }];
    const came = incomingOf(
      planned,
      { values: { name: text("Ines"), home: text("2 New Lane") }, rows: {} },
      builtInFields,
    );
    const onFile = [set(1, "first-name", "Inés María"), set(2, "address", "1 Old Road")];
    const lines = (more: readonly ChartEntry[]) => reconcileLines(foldChart([...onFile, ...more]), came);
    expect(lines([]).map((one) => [one.field.key, one.suggested, one.choices.includes("prefer")])).toEqual([
      ["first-name", "keep", true],
      ["address", undefined, false],
    ]);
    expect(lines([set(3, "preferred-name", "Nena")])[0]!.choices).not.toContain("prefer");
  });
  it("leads a bare yes in a narrative by its question, and sends staff's remarks where the plan says", () => {
    const safe = asked(line("yes-no", "safe", "Are you safe at home?"));
    const fields = (lines: PostingPlan["lines"], notes: { key: string; text: string }[]) => {
      const plan = planOf(safe, builtInFields, { lines, seen: [], order: [] });
      const target = plan.find(({ linkId }) => linkId === remarksLine)?.target;
      const came = incomingOf(
        withPlan(safe, plan, builtInFields),
        { values: { safe: [{ type: "boolean", value: true }] }, rows: {} },
        builtInFields,
        { remarks: target && { target, notes } },
      );
      return came.map((one) => [one.field.key, one.kind === "value" ? one.value : ""]);
    };
    const toSafety = { field: "safety", rule: "add" as const };
    const note = [{ key: "safe", text: "She hesitated." }];
    expect(fields({ safe: toSafety }, note)).toEqual([["safety", "Are you safe at home? Yes"]]);
    expect(fields({ safe: null, [remarksLine]: toSafety }, note)).toEqual([
      ["safety", "Are you safe at home? She hesitated."],
    ]);
    expect(fields({ safe: null, [remarksLine]: toSafety }, [])).toEqual([]);
    // Both in one narrative: told below each other, each led by what it is.
    expect(fields({ safe: toSafety, [remarksLine]: toSafety }, note)).toEqual([
      ["safety", "Are you safe at home? Yes\nMargin notes: Are you safe at home? She hesitated."],
    ]);
    // They are many in few words: nothing but a narrative holds them.
    const remarks = planOf(safe, builtInFields).find(({ linkId }) => linkId === remarksLine)!;
    expect([remarks.target, builtInFields.filter(remarks.fits).every(isNarrative)]).toEqual([undefined, true]);
  });
  it("never says of a measure's questions that they are facts", () => {
    expect(goes({ ...intake, kind: "measure" })).toMatchObject({ a: "none", b: "none", w: "weight (code)" });
  });

  it("leads each of several answers in one narrative by its question, in the order that was set, and goes on below what is there", () => {
    const plan: PostingPlan = {
      lines: {
        a: { field: "main-concern", rule: "add" },
        d: { field: "main-concern", rule: "add" },
      },
      seen: [],
      order: ["d", "a"],
    };
    const planned = withPlan(intake, planOf(intake, builtInFields, plan), builtInFields);
    const text = (value: string) => [{ type: "string" as const, value }];
    const answers: Answers = { values: { a: text("My back"), d: text("Blue") }, rows: {} };
    const [one, ...others] = incomingOf(planned, answers, builtInFields, { order: plan.order });
    expect(others).toEqual([]);
    expect(one).toMatchObject({
      question: "2 answers",
      value: "What is your favourite colour? Blue\nWhat brings you here? My back",
    });
    const before: ChartEntry = {
      seq: 1,
      posting: "start" as Id<"Posting">,
      at: "2026-11-01T08:00:00Z" as Instant,
      by: "Maren",
      source: { kind: "staff", reason: "" },
      change: { kind: "set", field: "main-concern", value: "Sleeps badly" },
    };
    const lines = reconcileLines(foldChart([before]), [one!]);
    expect(lines[0]).toMatchObject({ status: "differs", suggested: "both" });
    const drafts = decide(lines, [], { partId: "p", questionnaire: "Intake", on: "2026-11-25" }, () => "r");
    const change = drafts.ok ? drafts.value[0]!.change : undefined;
    const after = foldChart([before, { ...before, seq: 2, posting: "post" as Id<"Posting">, change: change! }]);
    expect(valueOn(after, "main-concern")).toBe(
      "Sleeps badly\n\n2026-11-25: What is your favourite colour? Blue\nWhat brings you here? My back",
    );
    // The same again is on file already.
    expect(reconcileLines(after, [one!])[0]!.status).toBe("same");
  });
});

describe("a chart", () => {
  const field = fc.constantFrom("goals", "support", "occupation", "alcohol");
  const posting = fc.record({ field, value: fc.string({ minLength: 1 }), reversedAlone: fc.boolean() });
  const entries = (postings: readonly { field: string; value: string }[], first = 1): ChartEntry[] =>
    postings.map(({ field: key, value }, index) => ({
      seq: first + index,
      posting: `p${first + index}` as Id<"Posting">,
      at: "2026-11-25T08:00:00Z" as Instant,
      by: "Maren",
      source: { kind: "staff", reason: "" },
      change: { kind: "set", field: key, value },
    }));
  const standing = (all: readonly ChartEntry[]) =>
    Object.fromEntries(Object.entries(foldChart(all).fields).map(([key, state]) => [key, state.current?.value]));
  it("is the same whatever order postings to other fields came in", () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(posting, { selector: (one) => one.field }),
        fc.infiniteStream(fc.nat()),
        (all, random) => {
          const shuffled = [...all]
            .map((one) => [random.next().value as number, one] as const)
            .sort(([a], [b]) => a - b)
            .map(([, one]) => one);
          expect(standing(entries(shuffled))).toEqual(standing(entries(all)));
        },
      ),
    );
  });
  it("is what it would be without the entries that were taken back one by one, in whatever order that happened", () => {
    fc.assert(
      fc.property(fc.array(posting, { maxLength: 12 }), (all) => {
        const written = entries(all);
        const undone = written.filter((_, index) => all[index]!.reversedAlone);
        const after = [
          ...written,
          ...undone.reverse().map((one, index): ChartEntry => ({
            ...one,
            seq: written.length + 1 + index,
            posting: `undo${index}` as Id<"Posting">,
            change: { kind: "reverse", posting: one.posting, entry: one.seq },
          })),
        ];
        const without = standing(written.filter((one) => !undone.includes(one)));
        for (const [key, value] of Object.entries(standing(after))) expect(value).toBe(without[key]);
      }),
    );
  });
});

/**
 * UCUM's own definitions: 1 [lb_av] = 7000 [gr], [gr] = 64.79891 mg; [in_i] = 2.54 cm; [ft_i] = 12 [in_i]; [stone_av] =
 * 14 [lb_av]; [oz_av] = [lb_av]/16; [degF]: 5/9 K, 32 at the ice point. Worked by hand from those.
 */
describe("amounts", () => {
  it.each([
    [154, "[lb_av]", "kg", (154 * 7000 * 64.79891) / 1e6],
    [11, "[stone_av]", "kg", (11 * 14 * 7000 * 64.79891) / 1e6],
    [16, "[oz_av]", "kg", (7000 * 64.79891) / 1e6],
    [70_000, "g", "kg", 70],
    [71, "[in_i]", "cm", 71 * 2.54],
    [6, "[ft_i]", "cm", 6 * 12 * 2.54],
    [1.8, "m", "cm", 180],
    [98.6, "[degF]", "Cel", 37],
    [212, "[degF]", "Cel", 100],
    [310.15, "K", "Cel", 37],
    [-40, "[degF]", "Cel", -40],
  ] as const)("%d %s", (amount, unit, to, want) => {
    expect(inChartUnit(amount, unit, to)).toBeCloseTo(want, 1);
  });
  it.each([
    ["5 ft 11 in", "cm", 180.3],
    ["5'11\"", "cm", 180.3],
    ["11 st 4 lb", "kg", 71.7],
    ["72,5 kg", "kg", 72.5],
    ["180cm", "cm", 180],
    ["37.2 °C", "Cel", 37.2],
    ["98.6 F", "Cel", 37],
    ["70", "kg", 70],
    ["70 cm", "kg", undefined],
    ["about 70 kg, I think", "kg", undefined],
    ["between 60 and 70", "kg", undefined],
    ["", "kg", undefined],
  ] as const)("in words: %s", (text, to, want) => expect(readAmount(text, to)).toBe(want));
});

describe("names of medicines", () => {
  it.each([
    ["Sertraline", "sertraline 50 mg", true],
    ["Ibuprofen", "Ibuprofin", true],
    ["Sertraline tablets", "Sertraline", true],
    ["Vitamin D", "vitamin d3 1000 IU", true],
    ["Sertraline", "Citalopram", false],
    ["Iron", "Zinc", false],
    ["", "Iron", false],
  ])("%s, %s", (one, other, alike) => expect(likeName(one, other) >= 0.8).toBe(alike));
  it("compares no more of an essay than of a name", () => {
    // A row may hold 20,000 letters; letter by letter, a list of such would hold the server up for minutes.
    const essay = "word ".repeat(4000);
    expect(likeName(`${essay}one`, `${essay}other`)).toBe(1);
    expect(likeName(`one ${essay}`, `${essay}`)).toBeLessThan(1);
  });
  it("is the same both ways, and nothing is as alike as the thing itself", () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (one, other) => {
        expect(likeName(one, other)).toBeCloseTo(likeName(other, one));
        expect(likeName(one, other)).toBeLessThanOrEqual(1);
      }),
    );
  });
});

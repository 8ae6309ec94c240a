import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { builtInFields, chartLine, incomingOf, postingProblems } from "../../src/core/chart";
import { readDraft, writeQuestionnaire } from "../../src/core/fhir";
import { proof } from "../../src/core/proof";
import {
  allItems,
  differences,
  duplicateItem,
  forClient,
  insertAfter,
  kindOf,
  lineKinds,
  markedKind,
  moveItem,
  newLine,
  readOptions,
  removeItem,
  setKind,
  updateItem,
  withKind,
  writeOptions,
  type Item,
  type LineKind,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { anyQuestionnaire, fromRepository } from "../support/questionnaires";
import { fhirProblems } from "../support/fhir";

const keys = (q: Questionnaire): string[] => allItems(q).map((i) => i.linkId);
const kind = fc.constantFrom(...lineKinds) as fc.Arbitrary<LineKind>;
const step = fc.oneof(
  fc.record({ do: fc.constant("insert" as const), at: fc.nat(), kind }),
  fc.record({ do: fc.constant("kind" as const), at: fc.nat(), kind }),
  fc.record({
    do: fc.constantFrom("up" as const, "down" as const, "remove" as const, "duplicate" as const),
    at: fc.nat(),
  }),
  fc.record({ do: fc.constant("words" as const), at: fc.nat(), words: fc.string({ maxLength: 20 }) }),
);

describe("writing", () => {
  it("keeps every key its own, loses nothing by moving, and reads back as it was, whatever is done in whatever order", () => {
    fc.assert(
      fc.property(anyQuestionnaire, fc.array(step, { maxLength: 25 }), (start, steps) => {
        let questionnaire = start;
        let made = 0;
        for (const score of steps) {
          const all = keys(questionnaire);
          const id = all[score.at % Math.max(1, all.length)];
          const before = questionnaire;
          if (score.do === "insert") questionnaire = insertAfter(questionnaire, id, newLine(score.kind, `n${made++}`));
          else if (id === undefined) continue;
          else if (score.do === "kind") questionnaire = setKind(questionnaire, id, score.kind);
          else if (score.do === "words")
            questionnaire = updateItem(questionnaire, id, (i) => ({ ...i, text: score.words }));
          else if (score.do === "remove") questionnaire = removeItem(questionnaire, id);
          else if (score.do === "duplicate") questionnaire = duplicateItem(questionnaire, id, () => `n${made++}`);
          else {
            questionnaire = moveItem(questionnaire, id, score.do === "up" ? -1 : 1);
            expect([...keys(questionnaire)].sort()).toEqual([...all].sort());
            // A group inside a section can leave it and not come back in: sections do not swallow each other.
            const item = allItems(before).find((i) => i.linkId === id)!;
            if (questionnaire !== before && (item.type !== "group" || before.items.includes(item)))
              expect(moveItem(questionnaire, id, score.do === "up" ? 1 : -1)).toEqual(before);
          }
          expect(new Set(keys(questionnaire)).size).toBe(keys(questionnaire).length);
          // What the client gets is what somebody would make of it who remembers nothing of the steps before.
          expect(forClient(questionnaire)).toEqual(forClient(structuredClone(questionnaire)));
        }
        const read = readDraft(writeQuestionnaire(questionnaire));
        expect(read).toEqual({ ok: true, value: questionnaire });
        expect(differences(questionnaire, questionnaire)).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });
  it("gives the client the very same item as long as nothing in it was touched, so that its page is not drawn anew", () => {
    const intake = fromRepository("adult-intake");
    const [touched, ...others] = intake.items;
    const before = forClient(intake);
    const after = forClient(updateItem(intake, touched!.linkId, (i) => ({ ...i, text: "Other words" })));
    expect(others.length).toBeGreaterThan(2);
    expect(after.items.slice(1).every((item, i) => item === before.items[i + 1])).toBe(true);
    expect(after.items[0]).not.toBe(before.items[0]);
    expect(after.items[0]!.text).toBe("Other words");
    // A score goes along only while something is asked by it; its section, untouched itself, is not the same one then.
    const score = { ...newLine("score", "total"), text: "Total" };
    const section = { ...newLine("section", "s"), items: [newLine("yes-no", "a"), score] } as Item;
    const asked: Questionnaire = {
      ...intake,
      items: [
        section,
        {
          ...newLine("short-text", "more"),
          shownWhen: {
            behavior: "all",
            conditions: [{ question: "total", operator: ">", answer: { type: "integer", value: 1 } }],
          },
        } as Item,
      ],
    };
    const inClient = (q: Questionnaire): string[] => keys(forClient(q));
    expect([inClient(asked), inClient(removeItem(asked, "more")), inClient(asked)]).toEqual([
      ["s", "a", "total", "more"],
      ["s", "a"],
      ["s", "a", "total", "more"],
    ]);
  });
  it.each(lineKinds)("%s: a new one is of its kind, so is anything turned into it, and its FHIR is sound", (key) => {
    expect(kindOf(newLine(key, "a"))).toBe(key);
    for (const from of lineKinds)
      expect(
        kindOf(
          withKind(
            { ...newLine(from, "a"), text: "Words", shownWhen: { behavior: "all", conditions: [] } } as Item,
            key,
          ),
        ),
      ).toBe(key);
    const filled = ((i: Item): Item => {
      if (i.type === "group") return { ...i, items: [newLine("short-text", "b")] };
      if (i.type === "display") return i;
      if (i.options.length === 0 && (i.type === "choice" || i.type === "open-choice"))
        return { ...i, options: readOptions("One = 1\n! None", [], "urn:o") };
      return i;
    })({ ...newLine(key, "a"), text: "Words" });
    const questionnaire: Questionnaire = { ...fromRepository("phq-9"), items: [filled] };
    expect(fhirProblems(writeQuestionnaire(questionnaire))).toEqual([]);
    expect(readDraft(writeQuestionnaire(questionnaire))).toEqual({ ok: true, value: questionnaire });
  });
  it.each(builtInFields.map((f) => [f.key, f] as const))(
    "asks for %s as the chart holds it, and Proof and the posting plan take it",
    (_, field) => {
      let index = 0;
      const line = { ...chartLine(field, () => `n${index++}`) };
      const questionnaire: Questionnaire = {
        ...fromRepository("phq-9"),
        translations: {},
        kind: "intake",
        items: [line],
      };
      expect(postingProblems(questionnaire, builtInFields)).toEqual([]);
      expect(proof(questionnaire, builtInFields).findings.filter((f) => f.level === "error")).toEqual([]);
      expect(fhirProblems(writeQuestionnaire(questionnaire))).toEqual([]);
      // An answer goes where it came from.
      const answerFor = () => {
        if (field.kind === "number") return { type: "decimal" as const, value: 7 };
        if (field.kind === "yes-no") return { type: "boolean" as const, value: true };
        return { type: field.kind === "date" ? ("date" as const) : ("string" as const), value: "2026-01-02" };
      };
      const given =
        field.kind === "rows"
          ? {
              rows: { n0: ["a"] },
              values: Object.fromEntries(
                allItems(questionnaire)
                  .slice(1)
                  .map((i) => [`n0:a/${i.linkId}`, [{ type: "string" as const, value: "x" }]]),
              ),
            }
          : {
              rows: {},
              values: {
                n0: [answerFor()],
              },
            };
      expect(incomingOf(questionnaire, given, builtInFields).map((i) => i.field.key)).toEqual([field.key]);
    },
  );
  it("reads options as typed, and keeps the code of one that is reworded or moved", () => {
    const first = readOptions("Never = 0\nNow and then = 1\n! I do not know", [], "urn:o");
    expect(writeOptions(first)).toBe("Never = 0\nNow and then = 1\n! I do not know");
    expect(first.map((o) => [o.ordinal, o.exclusive])).toEqual([
      [0, undefined],
      [1, undefined],
      [undefined, true],
    ]);
    const code = (o: (typeof first)[number]): string | undefined =>
      o.value.type === "coding" ? o.value.value.code : undefined;
    expect(readOptions("Not at all = 0\nNow and then = 1\n! I do not know", first, "urn:o").map(code)).toEqual(
      first.map(code),
    );
    expect(readOptions("Often = 2\nNever = 0", first, "urn:o").map(code)).toEqual(["often", "never"]);
    expect(new Set(readOptions("A\nA\nA", [], "urn:o").map(code)).size).toBe(3);
  });
  it("takes a mark for a kind only when a blank follows it", () => {
    expect(markedKind("() How often?")).toEqual({ kind: "one-of", rest: "How often?" });
    expect([markedKind("#5"), markedKind("How () often?"), markedKind("is it?")]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
});

describe("what differs between two versions", () => {
  const questionnaire = fromRepository("adult-intake");
  const words = (to: Questionnaire): string[] => differences(questionnaire, to).map((d) => d.words);
  const [first, second, third] = allItems(questionnaire).filter((i) => i.type === "string");
  it("is said in words: added, removed, reworded, moved, another rule, other options", () => {
    expect(words(updateItem(questionnaire, first!.linkId, (i) => ({ ...i, text: "Given name" })))).toEqual([
      "Reworded: “First name” is now “Given name”",
    ]);
    expect(
      words(insertAfter(questionnaire, first!.linkId, { ...newLine("yes-no", "new"), text: "Left-handed?" })),
    ).toEqual(["Added: “Left-handed?”"]);
    expect(words(removeItem(questionnaire, third!.linkId))).toEqual([`Removed: “${third!.text}”`]);
    expect(words(moveItem(questionnaire, second!.linkId, -1))).toHaveLength(1);
    expect(words(moveItem(questionnaire, second!.linkId, -1))[0]).toMatch(/^Moved: /);
    expect(words(updateItem(questionnaire, first!.linkId, (i) => ({ ...i, required: false }) as Item))).toEqual([
      "“First name”: may now be left out",
    ]);
    expect(words({ ...questionnaire, title: "Hello", signed: true })).toEqual([
      "Title: “Before your first visit” is now “Hello”",
      "Now signed by the client",
    ]);
    const choice = allItems(questionnaire).find((i) => i.type === "choice" || i.type === "open-choice")!;
    expect(
      words(
        updateItem(questionnaire, choice.linkId, (i) => ("options" in i ? { ...i, options: i.options.slice(1) } : i)),
      )[0],
    ).toContain("(before: ");
    expect(
      words(
        updateItem(questionnaire, first!.linkId, (i) => ({
          ...i,
          shownWhen: {
            behavior: "all",
            conditions: [{ question: choice.linkId, operator: "exists", answer: { type: "boolean", value: true } }],
          },
        })),
      ),
    ).toEqual([`“First name” is shown when “${choice.text}” is answered`]);
  });
  it("names the fewest lines as moved: one that went from first to last, not all the others", () => {
    const section = questionnaire.items[0]!;
    const list = section.type === "group" ? section.items : [];
    const turned: Questionnaire = {
      ...questionnaire,
      items: [{ ...section, items: [...list.slice(1), list[0]!] } as Item, ...questionnaire.items.slice(1)],
    };
    expect(differences(questionnaire, turned).map((d) => d.words)).toEqual([`Moved: “${list[0]!.text}”`]);
  });
});

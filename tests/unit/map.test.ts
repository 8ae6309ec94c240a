import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import { litBy, mapOf, unfolded } from "../../src/core/proof";
import {
  allItems,
  checkAnswer,
  formatOf,
  gridOptions,
  insertAfter,
  kindOf,
  newLine,
  noAnswers,
  readOptions,
  sectionsOf,
  setKind,
  shownQuestions,
  textFormats,
  translate,
  updateItem,
  withGridOptions,
  withTranslation,
  type Item,
  type Question,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { fhirProblems } from "../support/fhir";
import { anyQuestionnaire, answersFor, fromRepository } from "../support/questionnaires";

const intake = fromRepository("adult-intake");
const written = (q: Questionnaire): Questionnaire => {
  const fhir = JSON.parse(JSON.stringify(writeQuestionnaire(q))) as object;
  const read = readQuestionnaire(fhir);
  if (!read.ok) throw new Error(JSON.stringify(read.error));
  expect(fhirProblems(fhir)).toEqual([]);
  expect(writeQuestionnaire(read.value)).toEqual(fhir);
  return read.value;
};

describe("the map", () => {
  it("has every line once, each deeper than what its condition names, and lights what somebody with these answers is shown", () => {
    fc.assert(
      fc.property(
        anyQuestionnaire.chain((q) => answersFor(q).map((answers) => ({ q, answers }))),
        ({ q: questionnaire, answers }) => {
          const nodes = mapOf(questionnaire);
          const by = new Map(nodes.map((n) => [n.linkId, n]));
          expect(nodes.map((n) => n.linkId)).toEqual(allItems(questionnaire).map((i) => i.linkId));
          for (const node of nodes)
            for (const source of node.sources)
              expect(node.level).toBeGreaterThan(
                by.get(source)!.sources.length === 0 && by.get(source)!.inside === undefined
                  ? 0
                  : by.get(source)!.level - 1,
              );
          const lit = litBy(questionnaire, answers);
          for (const placed of shownQuestions(questionnaire, answers)) expect(lit).toContain(placed.item.linkId);
          expect(unfolded(nodes, new Set())).toEqual(nodes);
        },
      ),
      { numRuns: 200 },
    );
  });
  it("folds what hangs on a question with all that hangs on it in turn, and what stands in a group", () => {
    const nodes = mapOf(intake);
    const left = (...folded: string[]) => new Set(unfolded(nodes, new Set(folded)).map((n) => n.linkId));
    const branch = nodes.find((n) => n.sources.length > 0)!;
    expect(left(...branch.sources)).not.toContain(branch.linkId);
    for (const source of branch.sources) expect(left(...branch.sources)).toContain(source);
    const section = nodes.find((n) => n.kind === "section")!;
    expect(
      [...left(section.linkId)].filter((id) => nodes.find((n) => n.linkId === id)!.inside === section.linkId),
    ).toEqual([]);
    const group = nodes.find((n) => n.kind === "group" && n.level > 0)!;
    expect(nodes.filter((n) => n.inside === group.linkId).map((n) => n.level)).toEqual(
      expect.arrayContaining([group.level]),
    );
    expect(litBy(intake, noAnswers)).not.toContain(group.linkId);
    // Shown because of either of two questions, it goes only when both are folded.
    const yes = { type: "boolean" as const, value: true };
    const two: Questionnaire = {
      ...intake,
      items: [
        newLine("yes-no", "a"),
        newLine("yes-no", "b"),
        {
          ...newLine("short-text", "c"),
          shownWhen: {
            behavior: "any",
            conditions: ["a", "b"].map((question) => ({ question, operator: "=" as const, answer: yes })),
          },
        },
      ],
    };
    expect([["a"], ["a", "b"]].map((folded) => unfolded(mapOf(two), new Set(folded)).length)).toEqual([3, 2]);
  });
  it("ends where conditions go in a circle", () => {
    const on = (linkId: string, question: string): Item => ({
      ...newLine("yes-no", linkId),
      shownWhen: {
        behavior: "all",
        conditions: [{ question, operator: "=", answer: { type: "boolean", value: true } }],
      },
    });
    expect(
      mapOf({ ...intake, items: [on("a", "b"), on("b", "a"), on("c", "c"), on("d", "nowhere")] }).map((n) => n.sources),
    ).toEqual([["b"], ["a"], [], []]);
  });
});

describe("a grid", () => {
  const options = readOptions("Never = 0\nOften = 1", [], "urn:options");
  const grid = [
    newLine("one-of", "row-1"),
    newLine("one-of", "row-2"),
    newLine("short-text", "else"),
  ].reduce<Questionnaire>(
    (q, row, i, all) => insertAfter(q, i === 0 ? "grid" : all[i - 1]!.linkId, { ...row, text: row.linkId }),
    { ...intake, translations: {}, items: [{ ...newLine("grid", "grid"), text: "How often?" }] },
  );
  const shared = updateItem(grid, "grid", (i) => withGridOptions(i, options));
  it("gives its rows one set of options, is no page of its own, and is htable in FHIR", () => {
    expect(allItems(shared).map((i) => ("options" in i ? i.options : "grid"))).toEqual(["grid", options, options, []]);
    expect(gridOptions(shared.items[0]!)).toEqual(options);
    expect(kindOf(written(shared).items[0]!)).toBe("grid");
    expect(JSON.stringify(writeQuestionnaire(shared))).toContain('"code":"htable"');
    // It stands on the page with the questions around it.
    expect(
      sectionsOf({ ...shared, items: [{ ...newLine("short-text", "before"), text: "B" }, ...shared.items] }).map(
        (s) => s.items.length,
      ),
    ).toEqual([2]);
    expect(kindOf(setKind(shared, "grid", "section").items[0]!)).toBe("section");
    expect(withGridOptions(newLine("section", "s"), options)).toEqual(newLine("section", "s"));
  });
  it("is not made of what others lay out in another way, which is kept", () => {
    const control = {
      url: "http://hl7.org/fhir/StructureDefinition/questionnaire-itemControl",
      valueCodeableConcept: { coding: [{ system: "http://hl7.org/fhir/questionnaire-item-control", code: "gtable" }] },
    };
    const read = readQuestionnaire({
      resourceType: "Questionnaire",
      status: "active",
      title: "T",
      item: [
        {
          linkId: "g",
          type: "group",
          text: "G",
          extension: [control],
          item: [{ linkId: "a", type: "string", text: "A" }],
        },
      ],
    });
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    expect(kindOf(read.value.items[0]!)).toBe("section");
    expect((writeQuestionnaire(read.value)["item"] as { extension: unknown[] }[])[0]!.extension).toEqual([control]);
  });
});

describe("a format from the list", () => {
  it.each<[key: string, good: string[], bad: string[]]>([
    ["digits", ["0", "0123", "١٢", "۱۲"], ["", "1a", "一二"]],
    ["letters", ["Ana", "Ñandú", "ليلى حداد"], ["A1", "a-b"]],
    ["letters-digits", ["A12", "é9"], ["A 1", "!"]],
    ["capital-code", ["AB-123"], ["ab-1", "AB123", "ABCDEFG-1"]],
    ["year", ["1987", "2026"], ["1899", "26", "20266"]],
    ["clock", ["7:30", "23:59", "100:00"], ["7:60", "7.30", ":30"]],
  ])("%s takes what it says and nothing else, its own example included, and comes through a file", (key, good, bad) => {
    const format = textFormats.find((f) => f.key === key)!;
    const question = {
      ...newLine("short-text", "a"),
      text: "A",
      pattern: format.pattern,
      entryFormat: format.example,
    } as Question;
    const says = (value: string): (string | undefined)[] =>
      checkAnswer(question, "a", [{ type: "string", value }]).map((p) => p.limit);
    for (const value of [...good, format.example]) expect(says(value), value).toEqual([]);
    for (const value of bad) expect(says(value), value).toEqual([format.example]);
    const questionnaire = withTranslation(
      { ...intake, translations: {}, items: [question] },
      "es",
      { place: "example:a", part: "example", source: format.example, linkId: "a" },
      "así",
    );
    expect(formatOf((written(questionnaire).items[0] as Question).pattern)).toBe(format);
    expect((translate(written(questionnaire), "es").items[0] as Question).entryFormat).toBe("así");
  });
});

import { describe, expect, it } from "vitest";
import { readDraft, readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import {
  allItems,
  allQuestions,
  emptyQuestionnaire,
  newLine,
  type Item,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { readOutline } from "../../src/core/starter";
import { question } from "../support/questionnaires";

const head = { name: "test", title: "Test", description: "For a test.", kind: "intake" } as const;
const read = (text: string): Questionnaire => readOutline(head, text);

describe("an outline", () => {
  it("becomes sections, questions, options, help, conditions and posting lines", () => {
    const questionnaire = read(`
Before any section
# First
y/n {smokes} Do you smoke? * > tobacco replace
123 {many} How many a day?
  : On most days.
  ? smokes = yes
[] Which of these?
  - Pipe = 2
  - ! None = 0
  ? smokes = yes
  ? many >= 5
** {rows} Medicines > medicines
  Name * > name
  How often > often
Same words
Same words
`);
    expect(questionnaire.items.map((i) => [i.type, i.text])).toEqual([
      ["string", "Before any section"],
      ["group", "First"],
    ]);
    const byId = new Map(allItems(questionnaire).map((i) => [i.linkId, i]));
    expect(byId.get("smokes")).toMatchObject({
      type: "boolean",
      required: true,
      text: "Do you smoke?",
      posting: { field: "tobacco", rule: "replace" },
    });
    expect(byId.get("many")).toMatchObject({
      type: "integer",
      required: false,
      help: "On most days.",
      shownWhen: {
        behavior: "all",
        conditions: [{ question: "smokes", operator: "=", answer: { type: "boolean", value: true } }],
      },
    });
    expect(byId.get("which-of-these")).toMatchObject({
      type: "choice",
      repeats: true,
      options: [{ ordinal: 2 }, { ordinal: 0, exclusive: true }],
      shownWhen: {
        conditions: [
          { question: "smokes" },
          { question: "many", operator: ">=", answer: { type: "integer", value: 5 } },
        ],
      },
    });
    expect(byId.get("rows")).toMatchObject({
      type: "group",
      repeats: true,
      posting: { field: "medicines", rule: "ask" },
      items: [{ text: "Name", required: true, posting: { field: "name" } }, { text: "How often" }],
    });
    expect(
      allQuestions(questionnaire)
        .filter((i) => i.text === "Same words")
        .map((i) => i.linkId),
    ).toEqual(["same-words", "same-words-2"]);
    expect(readQuestionnaire(writeQuestionnaire(questionnaire))).toEqual({ ok: true, value: questionnaire });
  });
  it.each([
    ["a condition on nothing", "One\n  ? nobody = yes"],
    ["a condition on an option that is not there", "() {a} Which?\n  - One\nTwo\n  ? a = Three"],
    ["options under a text", "Just text\n  - One"],
    ["a posting rule that is none", "Words > first-name sometimes"],
  ])("stops at %s, naming the line", (_, text) => {
    expect(() => read(text)).toThrow(/^test: .+: /);
  });
});

describe("a questionnaire that is still being written", () => {
  const start = { ...emptyQuestionnaire("urn:t", "Title", "intake", "a") };
  const first = question("a", { type: "boolean", text: "A" });
  const when = (linkId: string): Pick<Item, "shownWhen"> => ({
    shownWhen: {
      behavior: "all",
      conditions: [{ question: linkId, operator: "=", answer: { type: "boolean", value: true } }],
    },
  });
  it.each<[string, Partial<Questionnaire>]>([
    ["no question", { items: [] }],
    ["an empty section", { items: [first, newLine("section", "b")] }],
    ["a choice without options", { items: [newLine("one-of", "b")] }],
    ["a condition on a question that is gone", { items: [first, { ...question("b"), ...when("gone") }] }],
    [
      "a condition on a section",
      { items: [{ ...newLine("section", "s"), items: [first] } as Item, { ...question("b"), ...when("s") }] },
    ],
    ["a condition on itself", { items: [{ ...first, ...when("a") }] }],
    [
      "a score of a question that is gone",
      {
        items: [
          question("s", {
            type: "decimal",
            readOnly: true,
            score: { method: "sum", items: ["gone"], fewestAnswered: 1, proration: "none", bands: [] },
          }),
        ],
      },
    ],
  ])("may have %s as a draft, and may not come in as a file", (_, parts) => {
    const q: Questionnaire = { ...start, ...parts };
    expect(readDraft(writeQuestionnaire(q))).toEqual({ ok: true, value: q });
    expect(readQuestionnaire(writeQuestionnaire(q)).ok).toBe(false);
  });
  it("may have no title as a draft, and goes by its name or address as a file", () => {
    const file = writeQuestionnaire({ ...start, title: "" });
    expect(readDraft(file)).toEqual({ ok: true, value: { ...start, title: "" } });
    expect(readQuestionnaire(file)).toMatchObject({ ok: true, value: { title: "t" } });
  });
  it.each<[string, unknown]>([
    ["another resource", { resourceType: "Patient" }],
    ["no resource", "text"],
    [
      "a key that stands twice",
      {
        ...writeQuestionnaire({ ...start, items: [first] }),
        item: [
          { linkId: "x", type: "string" },
          { linkId: "x", type: "string" },
        ],
      },
    ],
    [
      "a type that is none",
      { resourceType: "Questionnaire", title: "T", status: "draft", item: [{ linkId: "x", type: "poem" }] },
    ],
    ["no key", { resourceType: "Questionnaire", title: "T", status: "draft", item: [{ type: "string" }] }],
    [
      "a pattern that could run forever",
      {
        resourceType: "Questionnaire",
        title: "T",
        status: "draft",
        item: [
          {
            linkId: "x",
            type: "string",
            extension: [{ url: "http://hl7.org/fhir/StructureDefinition/regex", valueString: "(?=a)b" }],
          },
        ],
      },
    ],
  ])("is refused for %s even then", (_, json) => {
    expect(readDraft(json).ok).toBe(false);
  });
});

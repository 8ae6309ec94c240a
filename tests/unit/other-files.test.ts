import { proof } from "../../src/core/proof";
import { describe, expect, it } from "vitest";
import { readQuestionnaire, writeQuestionnaire, writeResponse } from "../../src/core/fhir";
import {
  allQuestions,
  checkAnswers,
  noAnswers,
  shownQuestions,
  textOf,
  type Answers,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { scoresOf } from "../../src/core/scoring";
import { instant } from "../../src/core/shared";
import { fhirProblems } from "../support/fhir";

// A questionnaire in another project's manner: slashes in linkIds, questions nested under questions, help as display
// items, ordinals on the coding, a decision by quantity, no kind, a name without a title. Invented, in the style of the
// FHIR R4 examples.
const theirs = {
  resourceType: "Questionnaire",
  id: "sleep-visit",
  url: "https://other.example/Questionnaire/sleep",
  name: "SleepVisit",
  status: "draft",
  subjectType: ["Patient"],
  date: "2024-02-03",
  contact: [{ name: "Somebody else" }],
  jurisdiction: [{ coding: [{ system: "urn:iso:std:iso:3166", code: "GB" }] }],
  item: [
    {
      linkId: "/1",
      prefix: "1",
      text: "How long do you sleep?",
      type: "quantity",
      required: true,
      extension: [
        {
          url: "http://hl7.org/fhir/StructureDefinition/questionnaire-unit",
          valueCoding: { system: "http://unitsofmeasure.org", code: "h", display: "hours" },
        },
      ],
      item: [
        {
          linkId: "/1/help",
          text: "Count naps too.",
          type: "display",
          extension: [
            {
              url: "http://hl7.org/fhir/StructureDefinition/questionnaire-itemControl",
              valueCodeableConcept: { coding: [{ code: "help" }] },
            },
          ],
        },
        { linkId: "/1/1", text: "Is that enough for you?", type: "boolean" },
      ],
    },
    {
      linkId: "/2",
      text: "What wakes you?",
      type: "open-choice",
      repeats: true,
      enableWhen: [{ question: "/1", operator: "<", answerQuantity: { value: 6, unit: "hours" } }],
      answerOption: [
        {
          valueCoding: {
            system: "urn:w",
            code: "noise",
            display: "Noise",
            extension: [{ url: "http://hl7.org/fhir/StructureDefinition/ordinalValue", valueDecimal: 1 }],
          },
        },
        { valueCoding: { system: "urn:w", code: "pain", display: "Pain" } },
        { valueString: "Worry" },
      ],
    },
    { linkId: "/3", text: "Since?", type: "date", maxLength: 10 },
    { linkId: "/4", text: "Clock", type: "time" },
  ],
};
const read = (json: unknown): Questionnaire => {
  const result = readQuestionnaire(json);
  if (!result.ok) throw new Error(JSON.stringify(result.error));
  return result.value;
};
const questionnaire = read(theirs);

describe("a file this project did not write", () => {
  it("is read whole: nested questions, ordinals on the coding, units, a name for a title", () => {
    expect([questionnaire.title, questionnaire.kind, allQuestions(questionnaire).map((i) => i.linkId)]).toEqual([
      "SleepVisit",
      "intake",
      ["/1", "/1/1", "/2", "/3", "/4"],
    ]);
    const [hours, , wakes] = allQuestions(questionnaire);
    expect([hours!.unit?.display, wakes!.options[0]!.ordinal, wakes!.repeats]).toEqual(["hours", 1, true]);
  });
  it("comes out valid, with what we do not use, and in again as the same", () => {
    const written = writeQuestionnaire(questionnaire);
    expect(fhirProblems(written)).toEqual([]);
    expect(written).toMatchObject({
      id: "sleep-visit",
      subjectType: ["Patient"],
      date: "2024-02-03",
      contact: [{ name: "Somebody else" }],
      jurisdiction: theirs.jurisdiction,
    });
    expect(read(JSON.parse(JSON.stringify(written)))).toEqual(questionnaire);
    expect(writeQuestionnaire(read(JSON.parse(JSON.stringify(written))))).toEqual(written);
  });
  it("is asked as it says: nested questions after their own is answered, the decision by amount", () => {
    const at = (hours: number): Answers => ({
      rows: {},
      values: { "%2F1": [{ type: "quantity", value: { value: hours, unit: "hours" } }] },
    });
    const keys = (answers: Answers) => shownQuestions(questionnaire, answers).map((p) => p.item.linkId);
    expect(keys(noAnswers)).toEqual(["/1", "/3", "/4"]);
    expect(keys(at(5.5))).toEqual(["/1", "/1/1", "/2", "/3", "/4"]);
    expect(keys(at(6))).toEqual(["/1", "/1/1", "/3", "/4"]);
    expect(checkAnswers(questionnaire, noAnswers).map((p) => p.linkId)).toEqual(["/1"]);
  });
  it("gives a valid response with the nested answer under its question, and several answers to one", () => {
    const answers: Answers = {
      rows: {},
      values: {
        "%2F1": [{ type: "quantity", value: { value: 5, unit: "hours" } }],
        "%2F1%2F1": [{ type: "boolean", value: false }],
        "%2F4": [{ type: "time", value: "23:30" }],
        "%2F3": [{ type: "date", value: "2025-01-01" }],
        "%2F2": [
          { type: "coding", value: { system: "urn:w", code: "noise", display: "Noise" } },
          { type: "string", value: "The ferry" },
        ],
      },
    };
    expect(checkAnswers(questionnaire, answers)).toEqual([]);
    const response = writeResponse(questionnaire, answers, {
      id: "r",
      client: { id: "c", name: "X" },
      authored: instant("2026-11-25T08:00:00Z"),
      status: "completed",
    });
    expect(fhirProblems(response)).toEqual([]);
    expect(response).toMatchObject({
      questionnaire: "https://other.example/Questionnaire/sleep|1",
      item: [
        {
          linkId: "/1",
          answer: [
            {
              valueQuantity: { value: 5, unit: "hours" },
              item: [{ linkId: "/1/1", answer: [{ valueBoolean: false }] }],
            },
          ],
        },
        { linkId: "/2", answer: [{ valueCoding: { code: "noise" } }, { valueString: "The ferry" }] },
        { linkId: "/3" },
        { linkId: "/4", answer: [{ valueTime: "23:30:00" }] },
      ],
    });
  });
  it("gets a score only where it says how", () => {
    expect(scoresOf(questionnaire, noAnswers)).toEqual([]);
  });
  it("with a signature is a consent, with a score a measure, unless it says what it is", () => {
    const signature = {
      url: "http://hl7.org/fhir/StructureDefinition/questionnaire-signatureRequired",
      valueCodeableConcept: { text: "sign" },
    };
    const score = {
      linkId: "s",
      text: "S",
      type: "decimal",
      readOnly: true,
      extension: [
        {
          url: "https://kindledger.example/fhir/StructureDefinition/score",
          extension: [
            { url: "method", valueCode: "mean" },
            { url: "item", valueString: "/3" },
          ],
        },
      ],
    };
    const kind = {
      url: "https://kindledger.example/fhir/StructureDefinition/questionnaire-kind",
      valueCode: "worksheet",
    };
    expect([
      read({ ...theirs, extension: [signature] }).kind,
      read({ ...theirs, item: [...theirs.item, score] }).kind,
      read({ ...theirs, extension: [signature, kind] }).kind,
    ]).toEqual(["consent", "measure", "worksheet"]);
    expect(read({ ...theirs, extension: [signature] }).signed).toBe(true);
  });
});

describe("what other programs write and we do not", () => {
  // The shapes are those of FHIR R4: ValueSet.compose.include.concept and expansion.contains, Questionnaire.item.type.
  const foreign = {
    resourceType: "Questionnaire",
    id: "morning-check",
    status: "active",
    contained: [
      {
        resourceType: "ValueSet",
        id: "often",
        status: "active",
        compose: {
          include: [
            {
              system: "urn:o",
              concept: [
                {
                  code: "never",
                  display: "Never",
                  extension: [{ url: "http://hl7.org/fhir/StructureDefinition/ordinalValue", valueDecimal: 0 }],
                },
                {
                  code: "often",
                  display: "Often",
                  extension: [{ url: "http://hl7.org/fhir/StructureDefinition/ordinalValue", valueDecimal: 2 }],
                },
              ],
            },
          ],
        },
      },
      {
        resourceType: "ValueSet",
        id: "side",
        status: "active",
        expansion: {
          timestamp: "2026-01-01T00:00:00Z",
          contains: [
            {
              system: "urn:s",
              code: "body",
              abstract: true,
              contains: [{ system: "urn:s", code: "left", display: "Left" }],
            },
            { system: "urn:s", code: "right" },
          ],
        },
      },
    ],
    item: [
      { linkId: "1", text: "How often?", type: "choice", answerValueSet: "#often" },
      { linkId: "2", text: "Which side?", type: "open-choice", answerValueSet: "#side" },
      { linkId: "3", text: "When did it begin?", type: "dateTime" },
      { linkId: "4", text: "Who sent you?", type: "reference" },
      { linkId: "5", text: "Anything else?", type: "question", initial: [{ valueString: "No" }] },
      {
        linkId: "6",
        text: "Weight",
        type: "quantity",
        extension: [
          {
            url: "http://hl7.org/fhir/StructureDefinition/questionnaire-unitOption",
            valueCoding: { code: "kg", display: "kg" },
          },
        ],
      },
      {
        linkId: "7",
        text: "Height",
        type: "quantity",
        extension: [
          { url: "http://hl7.org/fhir/StructureDefinition/questionnaire-unitOption", valueCoding: { code: "cm" } },
          { url: "http://hl7.org/fhir/StructureDefinition/questionnaire-unitOption", valueCoding: { code: "in" } },
        ],
      },
      {
        linkId: "8",
        text: "Sum",
        type: "decimal",
        readOnly: true,
        extension: [
          {
            url: "http://hl7.org/fhir/uv/sdc/StructureDefinition/sdc-questionnaire-calculatedExpression",
            valueExpression: { language: "text/fhirpath", expression: "1 + 1" },
          },
        ],
      },
    ],
  };
  it("is valid before it comes in, and taken: value sets in the file, types that cannot be asked, no title", () => {
    // "question" is abstract in FHIR R4, and written all the same.
    const valid = { ...foreign, item: foreign.item.map((i) => (i.type === "question" ? { ...i, type: "string" } : i)) };
    expect(fhirProblems(valid)).toEqual([]);
    const taken = read(foreign);
    expect(taken.title).toBe("morning check");
    const [often, side, began, who, else_, weight, height] = allQuestions(taken);
    expect(often!.options.map((o) => [textOf(o.value), o.ordinal])).toEqual([
      ["Never", 0],
      ["Often", 2],
    ]);
    expect(side!.options.map((o) => textOf(o.value))).toEqual(["Left", "right"]);
    expect([began!.type, who!.type, else_!.type]).toEqual(["date", "string", "string"]);
    expect([weight!.unit?.code, height!.unit]).toEqual(["kg", undefined]);
  });
  it("is listed where it is not done as the file says, and comes out valid", () => {
    const taken = read(foreign);
    const said = proof(taken, [])
      .findings.filter((f) => f.code === "not-honoured")
      .map((f) => [f.linkId, f.message]);
    expect(said.map(([linkId]) => linkId)).toEqual(["3", "4", "5", "5", "7", "8"]);
    expect(said.map(([, words]) => words).join(" ")).toMatch(
      /a day and a time.*another record.*began with an answer.*several units.*computed by an expression/s,
    );
    const written = JSON.parse(JSON.stringify(writeQuestionnaire(taken))) as object;
    expect(fhirProblems(written)).toEqual([]);
    expect(read(written)).toEqual(taken);
  });
});

describe("a value set that never ends going down", () => {
  it("is read as far as a questionnaire may be deep, and ends", () => {
    let contains: object[] = [{ system: "urn:x", code: "innermost" }];
    for (let depth = 0; depth < 20_000; depth++)
      contains = [{ system: "urn:x", code: "shell", abstract: true, contains }];
    const file = {
      resourceType: "Questionnaire",
      title: "Deep",
      status: "active",
      contained: [{ resourceType: "ValueSet", id: "deep", status: "active", expansion: { contains } }],
      item: [{ linkId: "1", text: "Which?", type: "choice", answerValueSet: "#deep" }],
    };
    const read = readQuestionnaire(file);
    expect(read.ok ? [] : read.error.map((p) => p.problem).join()).toMatch(/contained ValueSet that lists its codes/);
  });
});

import { describe, expect, it } from "vitest";
import {
  checkAnswer,
  compareValues,
  conditionMet,
  dateWords,
  enclosingPrefixes,
  forClient,
  keyOf,
  linkIdOf,
  prefixOf,
  readChange,
  rowPrefix,
  sameValue,
  sectionsOf,
  textOf,
  type AnswerValue,
  type Question,
} from "../../src/core/questionnaire";
import { fromRepository, question } from "../support/questionnaires";

const string = (value: string): AnswerValue => ({ type: "string", value });
const integer = (value: number): AnswerValue => ({ type: "integer", value });
const decimal = (value: number): AnswerValue => ({ type: "decimal", value });
const date = (value: string): AnswerValue => ({ type: "date", value });
const coding = (code: string, system = "urn:s"): AnswerValue => ({
  type: "coding",
  value: { system, code, display: code.toUpperCase() },
});
const quantity = (value: number, unit?: string): AnswerValue => ({
  type: "quantity",
  value: { value, ...(unit ? { unit } : {}) },
});

describe("one answer against its question, at and around every limit", () => {
  const cases: readonly (readonly [
    what: string,
    rest: Partial<Question>,
    value: AnswerValue,
    reason: string | undefined,
  ])[] = [
    ["text as long as allowed", { maxLength: 3 }, string("abc"), undefined],
    ["text one sign too long", { maxLength: 3 }, string("abcd"), "too-long"],
    ["text as short as allowed", { minLength: 2 }, string("ab"), undefined],
    ["text one sign too short", { minLength: 2 }, string("a"), "too-short"],
    ["a whole number at its least", { type: "integer", minValue: 1, maxValue: 5 }, integer(1), undefined],
    ["a whole number below", { type: "integer", minValue: 1, maxValue: 5 }, integer(0), "too-small"],
    ["a whole number at its most", { type: "integer", minValue: 1, maxValue: 5 }, integer(5), undefined],
    ["a whole number above", { type: "integer", minValue: 1, maxValue: 5 }, integer(6), "too-large"],
    ["half a whole number", { type: "integer" }, integer(1.5), "wrong-type"],
    ["a number past what can be counted", { type: "integer" }, integer(2 ** 53), "wrong-type"],
    ["decimals as many as allowed", { type: "decimal", maxDecimalPlaces: 2 }, decimal(0.12), undefined],
    ["one decimal too many", { type: "decimal", maxDecimalPlaces: 2 }, decimal(0.123), "too-many-decimals"],
    ["a sum that floating point bends", { type: "decimal", maxDecimalPlaces: 1 }, decimal(0.1 + 0.2), undefined],
    ["a whole number where decimals are asked", { type: "decimal" }, integer(2), undefined],
    ["an amount", { type: "quantity", maxValue: 10 }, quantity(10, "kg"), undefined],
    ["an amount too large", { type: "quantity", maxValue: 10 }, quantity(10.1, "kg"), "too-large"],
    ["a first day", { type: "date", minValue: "2026-01-01" }, date("2026-01-01"), undefined],
    ["the day before", { type: "date", minValue: "2026-01-01" }, date("2025-12-31"), "too-small"],
    ["a day that is none", { type: "date" }, date("2026-02-30"), "no-such-date"],
    ["a time", { type: "time" }, { type: "time", value: "23:59" }, undefined],
    ["a time that is none", { type: "time" }, { type: "time", value: "24:00" }, "wrong-type"],
    ["a web address", { type: "url" }, { type: "uri", value: "https://fernhollow.example/a" }, undefined],
    ["a script as a web address", { type: "url" }, { type: "uri", value: "javascript:alert(1)" }, "web-address"],
    ["a pattern met", { pattern: "[A-Z]{2}\\d{3}", entryFormat: "AB123" }, string("XY987"), undefined],
    [
      "a pattern met only in part",
      { pattern: "[A-Z]{2}\\d{3}", entryFormat: "AB123" },
      string("XY987 and more"),
      "pattern",
    ],
    ["an e-mail address", { keyboard: "email" }, string("ines@mail.example"), undefined],
    ["half an e-mail address", { keyboard: "email" }, string("ines@"), "email"],
    ["a phone number", { keyboard: "phone" }, string("020 7946 0314"), undefined],
    ["half a phone number", { keyboard: "phone" }, string("020"), "phone"],
    ["an option", { type: "choice", options: [{ value: coding("a") }] }, coding("a"), undefined],
    [
      "the same code of another system",
      { type: "choice", options: [{ value: coding("a") }] },
      coding("a", "urn:other"),
      "not-an-option",
    ],
    [
      "free words where they are allowed",
      { type: "open-choice", options: [{ value: coding("a") }] },
      string("mine"),
      undefined,
    ],
    [
      "free words where they are not",
      { type: "choice", options: [{ value: coding("a") }] },
      string("mine"),
      "not-an-option",
    ],
    [
      "a code that is not offered, where words are free",
      { type: "open-choice", options: [{ value: coding("a") }] },
      coding("b"),
      "not-an-option",
    ],
    ["yes", { type: "boolean" }, { type: "boolean", value: true }, undefined],
    ["yes in words", { type: "boolean" }, string("yes"), "wrong-type"],
  ];
  it.each(cases)("%s", (_, rest, value, reason) => {
    const [problem] = checkAnswer(question("q", rest), "q", [value]);
    expect(problem?.reason).toBe(reason);
  });
  it("gives the limit with the reason, for the words beside the field", () => {
    expect(checkAnswer(question("q", { maxLength: 3 }), "q", [string("abcd")])).toEqual([
      { key: "q", linkId: "q", reason: "too-long", limit: "3" },
    ]);
    expect(
      checkAnswer(question("q", { pattern: "x", entryFormat: "the letter x" }), "q", [string("y")])[0]?.limit,
    ).toBe("the letter x");
  });
  it("takes several answers only where they are asked, and none of these only alone", () => {
    const several = question("q", {
      type: "choice",
      repeats: true,
      options: [{ value: coding("a") }, { value: coding("b") }, { value: coding("none"), exclusive: true }],
    });
    expect(checkAnswer(several, "q", [coding("a"), coding("b")])).toEqual([]);
    expect(checkAnswer(several, "q", [coding("none")])).toEqual([]);
    expect(checkAnswer(several, "q", [coding("a"), coding("none")])[0]?.reason).toBe("exclusive");
    expect(checkAnswer({ ...several, repeats: false }, "q", [coding("a"), coding("b")])[0]?.reason).toBe("only-one");
  });
});

describe("conditions (FHIR R4 enableWhen operators)", () => {
  const met = (
    operator: Parameters<typeof conditionMet>[0]["operator"],
    answer: AnswerValue,
    values: AnswerValue[],
  ): boolean => conditionMet({ question: "q", operator, answer }, values);
  it.each([
    ["=", integer(2), [integer(2)], true],
    ["=", decimal(2), [integer(2)], true],
    ["=", integer(2), [], false],
    ["!=", integer(2), [integer(3)], true],
    ["!=", integer(2), [], false],
    [">", integer(2), [integer(3)], true],
    [">", integer(2), [integer(2)], false],
    [">=", integer(2), [integer(2)], true],
    ["<", date("2026-01-02"), [date("2026-01-01")], true],
    ["<=", quantity(5), [quantity(6)], false],
    ["=", coding("a"), [coding("b"), coding("a")], true],
    ["!=", coding("a"), [coding("a"), coding("b")], true],
    [">", coding("a"), [coding("b")], false],
    ["exists", { type: "boolean", value: true }, [string("x")], true],
    ["exists", { type: "boolean", value: false }, [string("x")], false],
    ["exists", { type: "boolean", value: false }, [], true],
  ] as const)("%s %j of %j is %s", (operator, answer, values, expected) => {
    expect(met(operator, answer, [...values])).toBe(expected);
  });
});

describe("answers", () => {
  it("are the same choice by system and code, or by their words where there is no code", () => {
    const words = (display: string): AnswerValue => ({ type: "coding", value: { display } });
    expect([
      sameValue(coding("a"), coding("a")),
      sameValue(words("A"), words("A")),
      sameValue(words("A"), words("B")),
      sameValue(quantity(1, "kg"), quantity(1, "g")),
      sameValue(string("1"), integer(1)),
    ]).toEqual([true, true, false, false, false]);
  });
  it("have an order only where FHIR gives them one", () => {
    expect(
      [
        compareValues(integer(1), decimal(1.5)),
        compareValues(string("a"), string("b")),
        compareValues(date("2026-01-01"), string("2026-01-01")),
        compareValues(coding("a"), coding("b")),
      ].map((n) => (n === undefined ? n : Math.sign(n))),
    ).toEqual([-1, -1, undefined, undefined]);
  });
  it("read in the reader's words", () => {
    expect([
      textOf({ type: "boolean", value: false }, { yes: "Ja", no: "Nein" }),
      textOf(quantity(2.5, "kg")),
      textOf(coding("a")),
      textOf(date("1991-04-17")),
      textOf(date("1991-04-17"), { yes: "", no: "", locale: "en-GB" }),
    ]).toEqual(["Nein", "2.5 kg", "A", "1991-04-17", "17 April 1991"]);
    expect([dateWords("soon", "en-GB"), dateWords("1991-04-17", "de-DE")]).toEqual(["soon", "17. April 1991"]);
  });
  it("are kept by place, with the rows around them from the inside out", () => {
    const key = keyOf(rowPrefix("a:1/b", "2"), "c/d");
    expect([key, linkIdOf(key), prefixOf(key), enclosingPrefixes(prefixOf(key))]).toEqual([
      "a:1/b:2/c%2Fd",
      "c/d",
      "a:1/b:2/",
      ["a:1/b:2/", "a:1/", ""],
    ]);
  });
});

describe("what the client's browser gets", () => {
  const all = JSON.stringify([fromRepository("phq-9"), fromRepository("adult-intake")].map(forClient));
  it("holds every question and no score, words of an alert, posting line or anything kept from the file", () => {
    expect(all).toContain("Little interest or pleasure");
    for (const hidden of [
      '"score"',
      '"posting"',
      '"kept"',
      "self-harm",
      "moderately severe",
      "44261-6",
      "fewestAnswered",
    ])
      expect(all, hidden).not.toContain(hidden);
  });
  it("is a page a section, and questions between sections share one", () => {
    expect(sectionsOf(fromRepository("adult-intake")).map((s) => s.title)).toEqual([
      "About you",
      "How to reach you",
      "Your health",
      "Your days",
      "What brings you",
    ]);
    const loose = {
      ...fromRepository("adult-intake"),
      items: [
        question("a"),
        question("b"),
        {
          type: "group" as const,
          linkId: "g",
          text: "G",
          codes: [],
          required: false,
          repeats: false,
          items: [question("c")],
        },
        question("d"),
      ],
    };
    expect(sectionsOf(loose).map((s) => s.items.map((i) => i.linkId))).toEqual([["a", "b"], ["g"], ["d"]]);
  });
  it("cannot send answers to scores or other read-only questions", () => {
    expect(readChange(fromRepository("phq-9"), { kind: "values", key: "44261-6", values: [integer(0)] }).ok).toBe(
      false,
    );
  });
});

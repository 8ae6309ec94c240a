import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import { changeOf, measuringOf, mostScoreRows, readScoresFile, scoredVersions } from "../../src/core/measures";
import {
  allQuestions,
  differences,
  type ChangeRule,
  type Item,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { starterLibrary } from "../../src/core/starter";
import { fhirProblems } from "../support/fhir";

const rowsOf = (text: string, monthFirst = false) => {
  const read = readScoresFile(text, monthFirst);
  if (!read.ok) throw new Error(read.why);
  return read.rows;
};
describe("a file of earlier scores", () => {
  it("reads whose, when and how much, however a spreadsheet wrote it", () => {
    const same = { line: 2, person: { email: "ines@mail.example" }, day: "2026-03-04", value: 12.5 };
    for (const text of [
      "E-mail,Date,Score\nines@mail.example,2026-03-04,12.5\n",
      "\uFEFFemail;Answered;Total\r\nines@mail.example;04.03.2026;12,5\r\n",
      "Date\tScore\tE-mail address\n4/3/2026\t12.5\tines@mail.example\n",
      'E-mail,Date,Score\n"ines@mail.example","2026-03-04T10:00:00Z","12.5"\n',
      "E-mail,Date,Score\n'ines@mail.example,2026-03-04,'12.5\n".replace("'ines", "ines").replace("'12.5", "12.5"),
    ])
      expect(rowsOf(text)).toEqual([same]);
    expect(rowsOf("E-mail,Date,Score\nines@mail.example,3/4/2026,12.5\n", true)[0]).toEqual(same);
    expect(rowsOf('Name,Date,Score\n"Halvorsen, Ines",2026-03-04,٧\n')[0]).toMatchObject({
      person: { firstName: "Ines", lastName: "Halvorsen" },
      value: 7,
    });
  });
  it("reads no number and no day where there is none: nothing is guessed", () => {
    for (const score of ["", "high", "1e3", "0x10", "12-14", "=1+1", "1,234.5", "∞", "--3"])
      expect(rowsOf(`E-mail,Date,Score\na@mail.example,2026-03-04,"${score}"\n`)[0]!.value, score).toBeUndefined();
    for (const day of ["", "soon", "2026-02-30", "31.02.2026", "4/3/26", "2026-13-01"])
      expect(rowsOf(`E-mail,Date,Score\na@mail.example,${day},3\n`)[0]!.day, day).toBeUndefined();
    // What was guarded against being run comes back as it was, and is no number for that.
    expect(rowsOf("E-mail,Date,Score\na@mail.example,2026-03-04,'-3\n")[0]!.value).toBe(-3);
  });
  it("is refused whole where a column is missing or there are too many lines", () => {
    const lines = Array.from({ length: mostScoreRows + 1 }, () => "a@mail.example,2026-03-04,3").join("\n");
    expect(readScoresFile(`E-mail,Date,Score\n${lines}\n`, false)).toEqual({ ok: false, why: "too-long" });
    expect(readScoresFile("", false)).toEqual({ ok: false, why: "empty" });
  });
  it("never throws, and gives a line for each that is there, whatever comes", () => {
    const cell = fc.oneof(
      fc.string(),
      fc.constantFrom('"', "=cmd|' /C calc'!A0", "\u0000", "١٢", "2026-03-04", "9".repeat(400)),
    );
    const table = fc.array(fc.array(cell, { minLength: 1, maxLength: 5 }), { maxLength: 12 });
    fc.assert(
      fc.property(table, fc.constantFrom(",", ";", "\t"), fc.boolean(), (rows, comma, monthFirst) => {
        const body = rows.map((row) => row.map((one) => `"${one.replaceAll('"', '""')}"`).join(comma)).join("\r\n");
        const read = readScoresFile(`${["Name", "Date", "Score"].join(comma)}\r\n${body}`, monthFirst);
        if (!read.ok) {
          expect(["empty", "no-person", "no-date", "no-value"]).toContain(read.why);
          return;
        }
        for (const { value, day } of read.rows) {
          if (value !== undefined) expect(Number.isFinite(value)).toBe(true);
          if (day !== undefined) expect(day).toMatch(/^\d{4}-\d{2}-\d{2}$/);
        }
      }),
    );
  });
});

const words = fc
  .string({ minLength: 1, maxLength: 30 })
  .filter((text) => text.trim() === text && /^[\w ,.;-]+$/.test(text));
const decimal = fc.integer({ min: -500, max: 500 }).map((n) => n / 10);
const sourced = fc.record({ value: decimal, source: words });
const amount = fc.record({ value: fc.integer({ min: 1, max: 500 }).map((n) => n / 10), source: words });
const norm = fc.record({ mean: decimal, sd: fc.integer({ min: 1, max: 300 }).map((n) => n / 10), source: words });
const rule = fc.record(
  {
    better: fc.constantFrom("lower" as const, "higher" as const),
    reliability: fc.record({
      value: fc.integer({ min: 0, max: 99 }).map((n) => n / 100),
      source: words,
      kind: fc.constantFrom("alpha" as const, "test-retest" as const),
    }),
    clinical: norm,
    general: norm,
    cutPoint: sourced,
    reliableChange: amount,
    important: amount,
  },
  { requiredKeys: ["better"] },
) as fc.Arbitrary<ChangeRule>;
const gad7 = starterLibrary.find(({ name }) => name === "gad-7")!;
const withRule = (change: ChangeRule | undefined): Questionnaire => ({
  ...gad7,
  items: gad7.items.map((item): Item => {
    if (!("score" in item) || !item.score) return item;
    const { change: _, ...score } = item.score;
    return { ...item, score: change ? { ...score, change } : score };
  }),
});
const scoreOf = (questionnaire: Questionnaire) => allQuestions(questionnaire).find(({ score }) => score)!.score!;

describe("what a change of a score means", () => {
  it("goes out as FHIR and comes back as it was, and both validators take it", () => {
    fc.assert(
      fc.property(rule, (change) => {
        const written = writeQuestionnaire(withRule(change));
        const read = readQuestionnaire(written);
        expect(read.ok && scoreOf(read.value).change).toEqual(change);
      }),
    );
    const [one] = fc.sample(rule, { numRuns: 1, seed: 7 });
    expect(fhirProblems(writeQuestionnaire(withRule(one)))).toEqual([]);
  });
  it("is refused where a number has no sense: a spread of nothing, a reliability of one, neither way better", () => {
    const broken = (change: object) => readQuestionnaire(writeQuestionnaire(withRule(change as ChangeRule)));
    expect(broken({ better: "lower", clinical: { mean: 1, sd: 0, source: "s" } }).ok).toBe(false);
    expect(broken({ better: "lower", reliability: { value: 1, kind: "alpha", source: "s" } }).ok).toBe(false);
    expect(broken({ better: "sideways" }).ok).toBe(false);
    // Every difference would be one, none at all among them.
    for (const name of ["reliableChange", "important"])
      expect(broken({ better: "lower", [name]: { value: 0, source: "s" } }).ok, name).toBe(false);
    expect(broken({ better: "lower", cutPoint: { value: "ten", source: "s" } }).ok).toBe(false);
  });
  it("is no part of how the score is made: versions that differ in it alone are set against each other", () => {
    const [before] = scoredVersions(withRule(undefined), "v1");
    const [after] = scoredVersions(withRule({ better: "lower" }), "v2");
    expect(after!.scoring).toBe(before!.scoring);
    expect(
      differences(withRule(undefined), withRule({ better: "lower" }))
        .map((one) => JSON.stringify(one))
        .join(),
    ).toContain("what a change of it means is held otherwise");
    const other: Questionnaire = {
      ...gad7,
      items: gad7.items.map((item): Item =>
        "score" in item && item.score ? { ...item, score: { ...item.score, factor: 2 } } : item,
      ),
    };
    expect(scoredVersions(other, "v3")[0]!.scoring).not.toBe(before!.scoring);
  });
  it("never calls better what is worse, whatever is held of it", () => {
    fc.assert(
      fc.property(rule, decimal, decimal, (change, first, last) => {
        const found = changeOf(first, last, change);
        const gain = change.better === "lower" ? first - last : last - first;
        if (found.state === "improved" || found.state === "recovered") expect(gain).toBeGreaterThanOrEqual(0);
        if (found.state === "recovered") expect(found.clinical).toEqual([true, false]);
        if (measuringOf(change).reliable === undefined) expect(found.state).toBe("not-known");
      }),
    );
  });
});

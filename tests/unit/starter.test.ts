import { describe, expect, it } from "vitest";
import { builtInFields } from "../../src/core/chart";
import { readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import { proof } from "../../src/core/proof";
import { allItems, allQuestions, languagesOf, type Answers, type Questionnaire } from "../../src/core/questionnaire";
import { scoresOf } from "../../src/core/scoring";
import { starterLibrary } from "../../src/core/starter";
import { fhirProblems } from "../support/fhir";

describe.each(starterLibrary.map((q) => [q.name!, q] as const))("%s", (name, questionnaire) => {
  it("passes Proof, reads at grade 6 where it is ours, and is sound FHIR that reads back the same", () => {
    const { findings } = proof(questionnaire, builtInFields);
    // The published measures' words are not ours to make easier, and are not warned about.
    expect(findings.filter((f) => f.code !== "goes-nowhere").map((f) => f.message)).toEqual([]);
    expect(fhirProblems(writeQuestionnaire(questionnaire))).toEqual([]);
    expect(readQuestionnaire(writeQuestionnaire(questionnaire))).toEqual({ ok: true, value: questionnaire });
    // Ours say everything in each of the client's languages; published measures are left to their published
    // translations.
    expect(languagesOf(questionnaire)).toEqual(questionnaire.copyright ? [] : ["ar", "es", "fr"]);
    expect(name).toMatch(/^[a-z0-9-]+$/);
  });
});

/** Answers whose weights add up to `total`, the items filled from the first on. */
function adding(questionnaire: Questionnaire, items: readonly string[], total: number): Answers {
  const byId = new Map(allQuestions(questionnaire).map((i) => [i.linkId, i]));
  let left = total - items.reduce((n, id) => n + Math.min(...byId.get(id)!.options.map((o) => o.ordinal!)), 0);
  return {
    rows: {},
    values: Object.fromEntries(
      items.map((id) => {
        const options = [...byId.get(id)!.options].sort((a, b) => a.ordinal! - b.ordinal!);
        const pick = options.filter((o) => o.ordinal! - options[0]!.ordinal! <= left).at(-1)!;
        left -= pick.ordinal! - options[0]!.ordinal!;
        return [id, [pick.value]];
      }),
    ),
  };
}

// Items, range and every boundary of the bands, by the source that stands beside each score.
describe.each<
  [name: string, score: string, items: number, range: [number, number], bands: [number, string][], source: string]
>([
  [
    "gad-7",
    "gad-7-total",
    7,
    [0, 21],
    [
      [0, "minimal"],
      [4, "minimal"],
      [5, "mild"],
      [9, "mild"],
      [10, "moderate"],
      [14, "moderate"],
      [15, "severe"],
      [21, "severe"],
    ],
    "Arch Intern Med 2006;166:1092-1097",
  ],
  [
    "phq-4",
    "phq-4-total",
    4,
    [0, 12],
    [
      [0, "normal"],
      [2, "normal"],
      [3, "mild"],
      [5, "mild"],
      [6, "moderate"],
      [8, "moderate"],
      [9, "severe"],
      [12, "severe"],
    ],
    "Psychosomatics 2009;50:613-621",
  ],
  [
    "phq-4",
    "phq-4-gad-2",
    2,
    [0, 6],
    [
      [2, "below the cut-point"],
      [3, "at or above the cut-point"],
    ],
    "Psychosomatics 2009;50:613-621",
  ],
  [
    "phq-4",
    "phq-4-phq-2",
    2,
    [0, 6],
    [
      [2, "below the cut-point"],
      [3, "at or above the cut-point"],
    ],
    "Psychosomatics 2009;50:613-621",
  ],
  [
    "who-5",
    "who-5-total",
    5,
    [0, 100],
    [
      [0, "low well-being"],
      [48, "low well-being"],
      [52, "not low"],
      [100, "not low"],
    ],
    "Psychother Psychosom 2015;84:167-176",
  ],
  [
    "audit",
    "audit-total",
    10,
    [0, 40],
    [
      [0, "zone I"],
      [7, "zone I"],
      [8, "zone II"],
      [15, "zone II"],
      [16, "zone III"],
      [19, "zone III"],
      [20, "zone IV"],
      [40, "zone IV"],
    ],
    "WHO/MSD/MSB/01.6a",
  ],
  ["audit", "audit-c", 3, [0, 12], [], ""],
  ["k10", "k10-total", 10, [10, 50], [], ""],
  [
    "pcl-5",
    "pcl-5-total",
    20,
    [0, 80],
    [
      [30, "below the provisional cut-point"],
      [31, "within the provisional cut-point range, 31 to 33"],
      [33, "within the provisional cut-point range, 31 to 33"],
      [34, "above the provisional cut-point"],
    ],
    "National Center for PTSD 2013",
  ],
  ["pcl-5", "pcl-5-b", 5, [0, 20], [], ""],
  ["pcl-5", "pcl-5-c", 2, [0, 8], [], ""],
  ["pcl-5", "pcl-5-d", 7, [0, 28], [], ""],
  ["pcl-5", "pcl-5-e", 6, [0, 24], [], ""],
])("%s: %s", (name, key, items, range, bands, source) => {
  const questionnaire = starterLibrary.find((s) => s.name === name)!;
  const rule = allQuestions(questionnaire).find((i) => i.linkId === key)!.score!;
  const scoreAt = (total: number) =>
    scoresOf(questionnaire, adding(questionnaire, rule.items, total / (rule.factor ?? 1))).find(
      (s) => s.linkId === key,
    )!;
  it("counts its items over its range", () => {
    expect(rule.items).toHaveLength(items);
    expect(scoreAt(range[0]).range).toEqual(range);
    expect([scoreAt(range[0]).value, scoreAt(range[1]).value]).toEqual(range);
    expect(proof(questionnaire, builtInFields).facts.scores.find((s) => s.linkId === key)!.range).toMatchObject({
      low: range[0],
      high: range[1],
      exact: true,
    });
  });
  if (bands.length > 0)
    it.each(bands)("%i is %s", (total, label) => {
      const score = scoreAt(total);
      expect([score.value, score.band?.label]).toEqual([total, label]);
      expect(score.band!.source).toContain(source);
    });
});

it("has the words of what goes together in a measure: one set of options, one LOINC code an item where there are any", () => {
  const gad = starterLibrary.find((q) => q.name === "gad-7")!;
  const items = allQuestions(gad).filter((i) => !i.score);
  expect(new Set(items.map((i) => i.codes[0]?.code)).size).toBe(7);
  for (const i of items) expect(i.options.map((o) => o.ordinal)).toEqual([0, 1, 2, 3]);
  for (const i of allQuestions(starterLibrary.find((q) => q.name === "who-5")!).filter((x) => !x.score))
    expect(i.options.map((o) => o.ordinal)).toEqual([5, 4, 3, 2, 1, 0]);
});

/**
 * LOINC's own check digit, Mod 10 (LOINC Users' Guide, appendix C: odd places from the right, as one number, doubled;
 * the even ones put before it).
 */
function checkDigit(number: string): number {
  const fromRight = [...number].reverse();
  const odd = fromRight.filter((_, index) => index % 2 === 0).join("");
  const even = fromRight.filter((_, index) => index % 2 === 1).join("");
  const sum = [...`${even}${Number(odd) * 2}`].reduce((all, digit) => all + Number(digit), 0);
  return (10 - (sum % 10)) % 10;
}
describe("LOINC codes, which were written down from memory", () => {
  const coded = starterLibrary
    .flatMap((one) => [...one.codes, ...allItems(one).flatMap((item) => item.codes)])
    .filter((code) => code.system === "http://loinc.org");
  it("have the check digit that LOINC gives them, the panels of AUDIT and PHQ-4 among them", () => {
    // PHQ-9 with its items, AUDIT and PHQ-4 at least.
    expect(coded.length).toBeGreaterThan(12);
    for (const { code } of coded) {
      const [number, digit] = code!.split("-");
      expect(checkDigit(number!), code).toBe(Number(digit));
    }
    expect(coded.map((one) => one.code)).toEqual(expect.arrayContaining(["72110-0", "69724-3"]));
    expect(checkDigit("72111")).not.toBe(0);
  });
  it("are marked as such where the questionnaire names its source", () => {
    for (const one of starterLibrary)
      if (one.codes.some((code) => code.system === "http://loinc.org") && one.name !== "phq-9")
        expect(one.copyright, one.name).toContain("from memory");
  });
});

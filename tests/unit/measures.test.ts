import { readFileSync } from "node:fs";
import fc from "fast-check";
import jstat from "jstat";
import * as reference from "simple-statistics";
import { describe, expect, it } from "vitest";
import {
  caseOf,
  changeIn,
  changeOf,
  correlation,
  cronbachAlpha,
  cutoffs,
  endsOf,
  gapsAfter,
  inOrderOf,
  inTime,
  isClinical,
  lastChange,
  mean,
  measuringOf,
  mixedIn,
  mixedWords,
  outcomesOf,
  packPoints,
  placesIn,
  prePostEffect,
  reliableChange,
  scoredVersions,
  slope,
  slopePerWeek,
  standardDeviation,
  stateWords,
  trendOf,
  trendSvg,
  trendWords,
  unpackPoints,
  variance,
  wilson,
  z95,
  type CaseOrder,
  type Course,
  type ScoredVersion,
  type ScorePoint,
} from "../../src/core/measures";
import type { ChangeRule } from "../../src/core/questionnaire";
import { readQuestionnaire } from "../../src/core/fhir";
import { instant, instantMs } from "../../src/core/shared";
import { starterLibrary } from "../../src/core/starter";

const day = 86_400_000;
const start = instantMs(instant("2026-03-02T09:00:00Z"));
const numbers = fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 3, maxLength: 40 });

describe("statistics agree with simple-statistics and jStat on the same numbers", () => {
  it("mean, variance, standard deviation", () => {
    fc.assert(
      fc.property(numbers, (all) => {
        expect(mean(all)).toBeCloseTo(reference.mean(all), 9);
        expect(variance(all)).toBeCloseTo(reference.sampleVariance(all), 9);
        expect(standardDeviation(all)).toBeCloseTo(jstat.stdev(all, true), 9);
      }),
    );
  });
  it("correlation and slope", () => {
    const pairs = fc.array(fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 27 })), {
      minLength: 3,
      maxLength: 40,
    });
    fc.assert(
      fc.property(pairs, (all) => {
        const [these, those] = [all.map(([a]) => a), all.map(([, b]) => b)];
        if (new Set(these).size === 1) {
          expect(slope(all)).toBeUndefined();
          return;
        }
        expect(slope(all)).toBeCloseTo(reference.linearRegression(all.map(([a, b]) => [a, b])).m, 9);
        if (new Set(those).size > 1) expect(correlation(all)).toBeCloseTo(reference.sampleCorrelation(these, those), 9);
        else expect(correlation(all)).toBeUndefined();
      }),
    );
  });
  it("alpha, from the covariance matrix: k/(k-1) (1 - trace/sum), Cronbach 1951", () => {
    const people = fc.array(fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 7, maxLength: 7 }), {
      minLength: 5,
      maxLength: 40,
    });
    fc.assert(
      fc.property(people, (all) => {
        const columns = Array.from({ length: 7 }, (_, item) => all.map((one) => one[item]!));
        const covariance = columns.map((a) => columns.map((b) => reference.sampleCovariance(a, b)));
        const trace = covariance.reduce((sum, row, index) => sum + row[index]!, 0);
        const whole = covariance.flat().reduce((sum, n) => sum + n, 0);
        const alpha = cronbachAlpha(all);
        if (Math.abs(whole) < 1e-9) expect(alpha).toBeUndefined();
        else expect(alpha).toBeCloseTo((7 / 6) * (1 - trace / whole), 8);
      }),
    );
  });
  it("95 % of the normal distribution, and Wilson's interval as the roots of its equation", () => {
    expect(z95).toBeCloseTo(jstat.normal.inv(0.975, 0, 1), 6);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.double({ min: 0, max: 1, noNaN: true }), (of, share) => {
        const counted = Math.round(share * of);
        // |p - share| = z sqrt(p (1 - p) / n), Wilson 1927.
        for (const p of wilson(counted, of))
          expect(Math.abs(p - counted / of)).toBeCloseTo(z95 * Math.sqrt((p * (1 - p)) / of), 6);
      }),
    );
    expect(wilson(0, 0)).toEqual([0, 1]);
  });
  // Newcombe, Stat Med 1998;17:857-872, the score method of table I (numbers from memory).
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])("%i of %i lie between the published %f and %f", (counted, of, low, high) => {
    const [from, to] = wilson(counted, of);
    expect(from).toBeCloseTo(low, 4);
    expect(to).toBeCloseTo(high, 4);
  });
  it("effect from first to last: by the spread of the first; up is better or down is", () => {
    const pairs = [
      [20, 11],
      [15, 12],
      [18, 9],
      [22, 20],
      [13, 14],
    ] as const;
    const [first, last] = [pairs.map(([a]) => a), pairs.map(([, b]) => b)];
    const effect = (reference.mean(first) - reference.mean(last)) / reference.sampleStandardDeviation(first);
    const together = reference.sampleCorrelation(first, last);
    const half = jstat.normal.inv(0.975, 0, 1) * Math.sqrt((2 * (1 - together)) / 5 + (effect * effect) / 10);
    const found = prePostEffect(pairs, "lower")!;
    expect(found.d).toBeCloseTo(effect, 9);
    expect([found.low, found.high]).toEqual([expect.closeTo(effect - half, 6), expect.closeTo(effect + half, 6)]);
    expect(prePostEffect(pairs, "higher")!.d).toBeCloseTo(-effect, 9);
    expect(prePostEffect(pairs.slice(0, 2), "lower")).toBeUndefined();
    expect(
      prePostEffect(
        [
          [5, 1],
          [5, 2],
          [5, 3],
        ],
        "lower",
      ),
    ).toBeUndefined();
  });
});

/** Jacobson and Truax 1991, as in our list of sources (from memory of the paper). */
const worked: ChangeRule = {
  better: "higher",
  reliability: { value: 0.8, kind: "test-retest", source: "worked example" },
  clinical: { mean: 40, sd: 7.5, source: "worked example" },
  general: { mean: 60, sd: 7.5, source: "worked example" },
};
describe("a change of a score", () => {
  it("is the worked example: 32.5 to 47.5, SD 7.5, r .80: SE 3.3541, Sdiff 4.7434, RC 3.16", () => {
    const { standardError, differenceError } = reliableChange(7.5, 0.8);
    expect(standardError).toBeCloseTo(3.3541, 4);
    expect(differenceError).toBeCloseTo(4.7434, 4);
    const change = changeOf(32.5, 47.5, worked);
    expect(change.index).toBeCloseTo(3.16, 2);
    // a: 40 + 2 x 7.5; b: 60 - 2 x 7.5; c with equal spreads: halfway.
    expect(cutoffs(worked)).toEqual({ a: 55, b: 45, c: 50 });
    expect(change).toMatchObject({ state: "improved", clinical: [true, true] });
    expect(changeOf(32.5, 52, worked)).toMatchObject({ state: "recovered", clinical: [true, false] });
    expect(() => reliableChange(0, 0.8)).toThrow(RangeError);
    expect(() => reliableChange(7.5, 1)).toThrow(RangeError);
  });
  it("is told the same from either side, whichever way is better", () => {
    const mirrored: ChangeRule = {
      ...worked,
      better: "lower",
      clinical: { ...worked.clinical!, mean: -40 },
      general: { ...worked.general!, mean: -60 },
    };
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 }), (first, last) => {
        const [up, down] = [changeOf(first, last, worked), changeOf(-first, -last, mirrored)];
        expect(down.state).toBe(up.state);
        expect(down.clinical).toEqual(up.clinical);
        // Better one way is worse the other way, by the same amount.
        const back = changeOf(last, first, worked);
        expect(up.state === "worse").toBe(back.state === "improved" || back.state === "recovered");
        expect(up.state === "no-change").toBe(back.state === "no-change");
      }),
    );
  });
  it("is judged by what is published before what is computed, and not at all without either", () => {
    const published: ChangeRule = {
      ...worked,
      reliableChange: { value: 6, source: "s" },
      cutPoint: { value: 50, source: "s" },
    };
    expect(measuringOf(published)).toMatchObject({
      reliable: { least: 6, from: "published" },
      cutoff: { value: 50, by: "published" },
    });
    // A published smallest change is reached by itself, a computed one has to be passed.
    expect(changeOf(40, 46, published).state).toBe("improved");
    expect(changeOf(40, 45, published).state).toBe("no-change");
    const { least } = reliableChange(7.5, 0.8);
    expect(changeOf(40, 40 + least, worked).state).toBe("no-change");
    expect(changeOf(40, 40 + least + 0.001, worked).state).toBe("improved");
    expect(changeOf(1, 9, undefined)).toEqual({ state: "not-known", difference: 8 });
    expect(changeOf(1, 9, { better: "lower", important: { value: 5, source: "s" } })).toMatchObject({
      state: "not-known",
      important: true,
    });
    // A published cut-point is the first number that is clinical.
    expect(isClinical(10, "lower", { value: 10, by: "published", source: "" })).toBe(true);
    expect(isClinical(50, "higher", { value: 50, by: "published", source: "" })).toBe(true);
    expect(isClinical(51, "higher", { value: 50, by: "published", source: "" })).toBe(false);
  });
  it("of GAD-7 is reliable from 4 points on, as its starter holds it", () => {
    const gad7 = starterLibrary.find(({ name }) => name === "gad-7")!;
    const [total] = scoredVersions(gad7, "v1");
    expect(total).toMatchObject({ least: 0, most: 21, items: 7 });
    expect(changeOf(14, 11, total!.change).state).toBe("no-change");
    expect(changeOf(14, 10, total!.change).state).toBe("improved");
    expect(changeOf(14, 9, total!.change)).toMatchObject({ state: "recovered", important: true });
    expect(changeOf(9, 14, total!.change).state).toBe("worse");
  });
});

describe("the PHQ-9 that ships", () => {
  const read = readQuestionnaire(JSON.parse(readFileSync("demo/questionnaires/phq-9.json", "utf8")));
  if (!read.ok) throw new Error("It does not read.");
  const [total] = scoredVersions(read.value, "v1");
  // NHS Talking Therapies manual (from memory): a change of 6 is reliable, 10 is the first clinical number.
  it.each([
    [15, 10, "no-change"],
    [15, 9, "recovered"],
    [20, 14, "improved"],
    [9, 3, "improved"],
    [9, 15, "worse"],
    [9, 14, "no-change"],
    [10, 4, "recovered"],
    [0, 27, "worse"],
  ] as const)("from %i to %i is %s", (first, last, state) => {
    expect(changeOf(first, last, total!.change).state).toBe(state);
  });
  it("says that a change of five matters to people, whichever way (Loewe et al. 2004, from memory)", () => {
    expect(changeOf(15, 10, total!.change).important).toBe(true);
    expect(changeOf(15, 11, total!.change).important).toBe(false);
    expect(changeOf(10, 15, total!.change).important).toBe(true);
  });
  it("has each band of its source at both ends, in the trend as in the score", () => {
    const bands = [
      ["minimal", 0, 4],
      ["mild", 5, 9],
      ["moderate", 10, 14],
      ["moderately severe", 15, 19],
      ["severe", 20, 27],
    ] as const;
    for (const [label, low, high] of bands)
      for (const value of [low, high]) {
        const points = [point(0, value)];
        const drawn = trendOf({ ...course(points), versions: [{ ...total!, versionId: "v1" }] }, []);
        expect(drawn.points[0]!.band, String(value)).toBe(label);
        const zone = drawn.zones.find((one) => value >= one.low && value <= one.high)!;
        expect(zone.label).toBe(label);
      }
  });
  it("draws visits and events where they were, and leaves out what lies outside", () => {
    const points = [point(0, 12), point(14, 9)];
    const moments = [
      { at: point(7, 0).at, words: "Follow-up", kind: "visit" as const },
      { at: point(10, 0).at, words: "Iron begun", kind: "event" as const },
      { at: point(-3, 0).at, words: "Before it all", kind: "event" as const },
      { at: point(90, 0).at, words: "Long after", kind: "visit" as const },
    ];
    const drawn = trendOf(course(points), moments);
    expect(drawn.moments.map(({ words }) => words)).toEqual(["Follow-up", "Iron begun"]);
    // Somebody came in between and was not measured.
    expect(drawn.gaps).toEqual([0]);
    expect(trendOf(course([]), moments).moments).toEqual([]);
    const svg = trendSvg(drawn, "said", (at) => at.slice(0, 10));
    expect(svg).toContain("Iron begun");
    expect(svg.match(/<circle/g)).toHaveLength(2);
  });
});

const version = (versionId: string, more: Partial<ScoredVersion> = {}): ScoredVersion => ({
  versionId,
  version: versionId.slice(1),
  title: "Total",
  items: 9,
  least: 0,
  most: 27,
  bands: [
    { low: 0, high: 4, label: "minimal", source: "s" },
    { low: 5, high: 9, label: "mild", source: "s" },
    { low: 10, high: 27, label: "more", source: "s" },
  ],
  scoring: "sum of nine",
  change: { better: "lower", reliableChange: { value: 6, source: "s" }, cutPoint: { value: 10, source: "s" } },
  ...more,
});
const point = (days: number, value: number | undefined, more: Partial<ScorePoint> = {}): ScorePoint => ({
  at: instant(start + days * day),
  questionnaireId: "q",
  versionId: "v1",
  linkId: "total",
  value,
  answered: value === undefined ? 7 : 9,
  items: 9,
  prorated: false,
  language: "en",
  packetId: `packet ${days}`,
  partId: `part ${days}`,
  ...more,
});
const course = (points: readonly ScorePoint[], versions = [version("v1")]): Course => ({
  questionnaireId: "q",
  linkId: "total",
  title: "Total",
  points,
  versions,
});
const zone = "Europe/London";

describe("many people's change", () => {
  const caseFor = (clientId: string, values: readonly number[], days = 0) => {
    const { points, versions } = course(values.map((value, index) => point(days + index * 7, value)));
    return caseOf(clientId, endsOf(points)[0]!, versions);
  };
  it("is in the order of who needs a look first, whichever way is better", () => {
    const cases = [
      caseFor("better", [20, 5]),
      caseFor("same", [12, 12]),
      caseFor("worse", [5, 12]),
      caseFor("worst", [5, 25]),
      caseFor("once", [9]),
    ];
    const order = (by: CaseOrder, alerts: Readonly<Record<string, number>> = {}): string[] =>
      inOrderOf(cases, by, new Map(Object.entries(alerts).map(([who, at]) => [who, instant(start + at * day)]))).map(
        ({ clientId }) => clientId,
      );
    expect(order("worse")).toEqual(["worst", "worse", "same", "once", "better"]);
    expect(order("alert", { same: 3, better: 1 })).toEqual(["better", "same", "worst", "worse", "once"]);
    expect(order("better")[0]).toBe("better");
    expect(endsOf([point(0, undefined)])).toEqual([]);
  });
  it("says of the ends of a course what the whole of it says, whatever versions and gaps lie between", () => {
    const versions = [
      version("v1"),
      version("v2"),
      version("v3", { scoring: "sum of eight" }),
      version("v4", { scoring: "sum of eight" }),
    ];
    const one = fc.record({
      at: fc.integer({ min: 0, max: 40 }),
      value: fc.option(fc.integer({ min: 0, max: 27 }), { nil: undefined }),
      versionId: fc.constantFrom("v1", "v2", "v3", "v4"),
      linkId: fc.constantFrom("total", "other"),
    });
    let compared = 0;
    fc.assert(
      fc.property(fc.array(one, { maxLength: 20 }), (all) => {
        const points = inTime(all.map(({ at, value, ...rest }) => point(at, value, rest)));
        const ends = endsOf(points);
        const given = new Set(points.filter(({ value }) => value !== undefined).map(({ linkId }) => linkId));
        expect(new Set(ends.map(({ linkId }) => linkId))).toEqual(given);
        // Who was measured last stands first.
        const lasts = ends.map(({ last }) => last.at);
        expect(lasts).toEqual(lasts.toSorted().toReversed());
        for (const end of ends) {
          const own = points.filter(({ linkId }) => linkId === end.linkId);
          const whole = changeIn(course(own, versions));
          const told = caseOf("somebody", end, versions);
          expect(told.state).toBe(whole.known ? whole.change.state : "not-known");
          expect(told.difference).toBe(whole.known ? whole.change.difference : undefined);
          expect(told.scores).toBe(own.filter(({ value }) => value !== undefined).length);
          expect(told.numbers).toEqual(own.flatMap(({ value }) => value ?? []).slice(-12));
          if (whole.known) compared++;
        }
      }),
    );
    expect(compared).toBeGreaterThan(20);
  });
  it("is told from five people on: each counted once, whoever stopped among them", () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.integer({ min: 0, max: 27 }), { minLength: 1, maxLength: 4 }), { maxLength: 14 }),
        (all) => {
          const cases = all.map((values, index) => caseFor(String(index), values));
          const now = instant(start + 400 * day);
          const figures = outcomesOf(cases, now);
          if (all.length < 5) {
            expect(figures).toBeUndefined();
            return;
          }
          expect(figures!.begun).toBe(all.length);
          expect(figures!.pairs + all.filter(({ length }) => length === 1).length).toBe(all.length);
          expect(figures!.stopped).toBe(all.filter(({ length }) => length === 1).length);
          // So few pairs would tell who they are.
          if (figures!.pairs < 5) expect([figures!.states, figures!.effect]).toEqual([undefined, undefined]);
          else expect(figures!.states!.reduce((sum, { count }) => sum + count, 0)).toBe(figures!.pairs);
          expect(outcomesOf(cases, instant(start))!.stopped).toBe(0);
        },
      ),
    );
  });
});
describe("scores over time", () => {
  it("say why a change is not told: no score, one score, made differently since", () => {
    expect(stateWords(changeIn(course([point(0, undefined)])))).toBe("no score yet");
    expect(stateWords(changeIn(course([point(0, 12)])))).toBe("one score so far");
    const two = course(
      [point(0, 12), point(7, 4, { versionId: "v2" })],
      [version("v1"), version("v2", { scoring: "sum of eight" })],
    );
    expect(changeIn(two)).toEqual({ known: false, why: "made-differently" });
    expect(mixedWords(two, zone)).toEqual([expect.stringContaining("do not make the score alike")]);
    // Nor does a line lead from one to the other, or a corridor reach there.
    expect(trendOf(two, [])).toMatchObject({ gaps: [0] });
    expect(trendOf(two, []).corridor).toBeUndefined();
    expect(trendOf(course([point(0, 12), point(7, 4)]), []).gaps).toEqual([]);
    // Another wording alone changes no score: it is compared, and said.
    const reworded = course([point(0, 12), point(7, 4, { versionId: "v2" })], [version("v1"), version("v2")]);
    expect(changeIn(reworded)).toMatchObject({ known: true, change: { state: "recovered", difference: -8 } });
    expect(mixedIn(reworded, zone)).toMatchObject({ versions: ["1", "2"], madeDifferently: false });
  });
  it("are judged by what is known of the score by now, where it is still made as it was", () => {
    const bare = version("v1");
    const { change: _, ...without } = bare;
    const known = course([point(0, 12), point(7, 4)], [without, version("v2")]);
    expect(changeIn(known)).toMatchObject({ known: true, change: { state: "recovered" } });
    expect(changeIn(course(known.points, [without, version("v2", { scoring: "other" })]))).toMatchObject({
      known: true,
      change: { state: "not-known" },
    });
  });
  it("begin at the first, or at the baseline that was chosen; two of one day both stand, in their order", () => {
    const three = course([point(0, 20), point(7, 12), point(7.1, 11), point(14, 10)]);
    expect(changeIn(three)).toMatchObject({ change: { difference: -10 } });
    expect(changeIn(three, point(7, 12).at)).toMatchObject({ change: { difference: -2, state: "no-change" } });
    expect(changeIn(three, instant("2001-01-01T00:00:00Z"))).toMatchObject({ change: { difference: -10 } });
    expect(lastChange(three)).toMatchObject({ change: { difference: -1 } });
    expect(mixedIn(three, zone).sameDay).toEqual(["2026-03-09"]);
  });
  it("fall by so many points a week, over scores that are made alike alone (checked by simple-statistics)", () => {
    const totals = [20, 18, 19, 12, 11, 7];
    const weekly = course(totals.map((value, index) => point(index * 7, value)));
    const { m: fall } = reference.linearRegression(totals.map((value, index) => [index, value]));
    expect(slopePerWeek(weekly)).toBeCloseTo(fall, 6);
    expect(slopePerWeek(course(weekly.points.slice(0, 2)))).toBeUndefined();
    const mixed = course(
      [...weekly.points.slice(0, 3), ...weekly.points.slice(3).map((one) => ({ ...one, versionId: "v2" }))],
      [version("v1"), version("v2", { scoring: "otherwise" })],
    );
    const late = reference.linearRegression(totals.slice(3).map((value, index) => [index, value]));
    expect(slopePerWeek(mixed)).toBeCloseTo(late.m, 6);
  });
  it("never go back in time, whatever baseline is chosen", () => {
    const all = course([point(0, 3), point(7, 9)]);
    expect(changeIn(all, point(7, 9).at)).toEqual({ known: false, why: "one-score" });
    expect(changeIn(course([point(0, 3), point(0, 9)]))).toEqual({ known: false, why: "one-score" });
  });
  it("have a gap where somebody came and was not measured, or was silent for much longer than usual", () => {
    const weekly = [0, 7, 14, 21, 56].map((n) => start + n * day);
    expect(gapsAfter(weekly, [])).toEqual([3]);
    expect(gapsAfter(weekly.slice(0, 4), [])).toEqual([]);
    expect(gapsAfter([0, 14 * day], [7 * day])).toEqual([0]);
    // The visit that the score belongs to is no gap.
    expect(gapsAfter([0, 14 * day], [14.2 * day, 13 * day])).toEqual([]);
    expect(gapsAfter([], [])).toEqual([]);
    expect(gapsAfter([start], [start])).toEqual([]);
  });
  it("are drawn where they are: each point within the frame, at its time and height, by its own arithmetic", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 700 }), fc.integer({ min: 0, max: 27 })), {
          minLength: 1,
          maxLength: 60,
        }),
        (drawn) => {
          const points = [...drawn].sort(([a], [b]) => a - b).map(([at, value]) => point(at, value));
          const trend = trendOf(course(points), []);
          const frame = { left: 10, top: 20, width: 300, height: 270 };
          const places = placesIn(trend, frame);
          places.forEach(({ x, y }, index) => {
            expect(y).toBeCloseTo(20 + 270 - points[index]!.value! * 10, 6);
            expect(x).toBeGreaterThanOrEqual(10);
            expect(x).toBeLessThanOrEqual(310.000001);
            if (index > 0) expect(x).toBeGreaterThanOrEqual(places[index - 1]!.x);
          });
          // Zones lie on each other without a hole from the lowest to the highest number.
          expect([trend.zones[0]!.low, trend.zones.at(-1)!.high]).toEqual([0, 27]);
          trend.zones.slice(1).forEach((zone, index) => expect(zone.low).toBe(trend.zones[index]!.high));
          expect(trend.corridor![0]).toBe(Math.max(0, points[0]!.value! - 6));
        },
      ),
    );
  });
  it("are kept packed, and come back as they were, the oldest first", () => {
    const any = fc.record({
      days: fc.nat(900),
      value: fc.option(fc.integer({ min: 0, max: 27 }), { nil: undefined }),
      linkId: fc.constantFrom("total", "part"),
      language: fc.constantFrom("en", "ar", ""),
      prorated: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.uniqueArray(any, { maxLength: 30, selector: ({ days }) => days }), (drawn) => {
        const points = drawn.map(({ days, value, ...more }) => point(days, value, more));
        expect(unpackPoints(JSON.parse(JSON.stringify(packPoints(points))) as never)).toEqual(inTime(points));
      }),
    );
    const { packetId: _, partId: __, ...brought } = point(1, 5);
    expect(unpackPoints(packPoints([brought]))).toEqual([brought]);
  });
  it("are said in a sentence, and drawn as a picture that runs nothing", () => {
    const said = course([point(0, 17), point(7, 9)]);
    expect(trendWords(said, "en-GB", zone)).toBe(
      "Total: 17 on 2 Mar 2026, 9 (mild) on 9 Mar 2026: 8 fewer; recovered: fallen by more than chance, and out of the clinical range (cut-point 10).",
    );
    expect(trendWords(course([point(0, 17), point(7, 13)]), "en-GB", zone)).toContain(
      "no reliable change: chance alone can do that (6 or more would be reliable)",
    );
    expect(trendWords(course([]), "en-GB", zone)).toBe("Total: not scored yet.");
    const hostile = { ...said, title: `<script>alert(1)</script>"&\u0000` };
    const svg = trendSvg(
      trendOf(hostile, [{ at: point(3, 1).at, words: "</text><a href='javascript:1'>", kind: "event" }]),
      trendWords(hostile, "en-GB", zone),
      (at) => at.slice(0, 10),
    );
    expect(svg).not.toMatch(/<script|<a |\u0000/);
    expect(svg.match(/<circle/g)).toHaveLength(2);
  });
});

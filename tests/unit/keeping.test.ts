import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { backupName, differences, keptBackups, momentOf, warningWords, type Warning } from "../../src/core/backup";
import { recordDueOn } from "../../src/core/retention";
import { instant, instantMs, type Instant } from "../../src/core/shared";
import { pathForLog } from "../../probes.mjs";

const day = 86_400_000;
const first = Date.parse("2026-01-01T02:00:00Z");
const on = (days: number): Instant => instant(first + days * day);

describe("backups that stay", () => {
  it("are, after years of one a day, a week of days, five weeks and a year, and always the newest", () => {
    let made: Instant[] = [];
    for (let today = 0; today < 3 * 365; today++) {
      made = [...made, on(today)];
      const kept = keptBackups(made);
      expect(kept.has(on(today))).toBe(true);
      made = made.filter((at) => kept.has(at));
      expect(made.length).toBeLessThanOrEqual(7 + 5 + 12 + 1);
    }
    const ages = made.map((at) => (instantMs(on(3 * 365 - 1)) - instantMs(at)) / day);
    for (let age = 0; age < 7; age++) expect(ages).toContain(age);
    expect(Math.max(...ages)).toBeGreaterThan(300);
    // At no time is there a gap of more than a week in the last five, nor of more than a month in the last year.
    const sorted = ages.toSorted((one, other) => one - other);
    for (const [index, age] of sorted.slice(1).entries()) expect(age - sorted[index]!).toBeLessThanOrEqual(31);
  });
  it("are always some, and none that was not made", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 2000 }), { minLength: 1, maxLength: 60 }), (days) => {
        const made = days.map(on);
        const kept = keptBackups(made);
        expect(kept.size).toBeGreaterThan(0);
        for (const at of kept) expect(made).toContain(at);
        expect(kept.has(on(Math.max(...days)))).toBe(true);
      }),
    );
  });
  it("say when they were made, and other files do not", () => {
    const at = instant("2026-11-25T02:00:03Z");
    expect(backupName(at)).toBe("kind-ledger-2026-11-25T020003Z.tar.age");
    expect(momentOf(backupName(at))).toBe(at);
    for (const name of ["notes.txt", "kind-ledger-2026-13-25T020003Z.tar.age", `${backupName(at)}.part`])
      expect(momentOf(name)).toBeUndefined();
  });
  it("are compared table by table", () => {
    const table = { name: "client", columns: ["id"], rows: 2, digest: "aa" };
    expect(differences([table], [table])).toEqual([]);
    expect(differences([table], [{ ...table, digest: "ab" }])).toEqual(["client has other rows"]);
    expect(differences([table], [{ ...table, rows: 3 }])).toEqual(["client has 3 rows instead of 2"]);
    expect(differences([table], [])).toEqual(["client is missing"]);
    expect(differences([], [table])).toEqual(["client is there besides"]);
  });
});

describe("records are due", () => {
  // Common practice: eight years after the last contact for adults; for children until 25.
  const rules = { record: 8, minorsUntil: 25 };
  it.each([
    ["2018-11-30", "1970-01-01", "2026-11-30"],
    ["2018-11-30", undefined, "2026-11-30"],
    // Fourteen at the last contact: eight years later they are 22, so it is kept until they are 25.
    ["2018-06-01", "2004-03-10", "2029-03-10"],
    // Twenty: eight years are longer.
    ["2018-06-01", "1998-03-10", "2026-06-01"],
    // A day that the year of the end does not have.
    ["2020-02-29", "1970-01-01", "2028-02-29"],
    ["2019-02-28", "2004-02-29", "2029-02-28"],
  ])("last contact %s, born %s: on %s", (lastContact, birthDate, due) => {
    expect(recordDueOn(rules, { lastContact, birthDate })).toBe(due);
  });
  it("never without a rule, and by contact alone without an age", () => {
    expect(recordDueOn({}, { lastContact: "1990-01-01", birthDate: undefined })).toBeUndefined();
    expect(recordDueOn({ record: 1 }, { lastContact: "2018-06-01", birthDate: "2015-05-05" })).toBe("2019-06-01");
  });
});

it("every warning says what to do, and names nobody", () => {
  const all: Warning[] = [
    { kind: "no-backups" },
    { kind: "backup-late", days: 1 },
    { kind: "mail-failing", letters: 2 },
    { kind: "disk-low", megabytes: 10 },
    { kind: "clock-back", minutes: 7 },
    { kind: "key-open" },
    { kind: "anchor-late", days: 3 },
  ];
  for (const warning of all) expect(warningWords(warning)).toMatch(/^[A-Z\d].+[.?]$/);
});

it("logs where a request went without what it was about", () => {
  const id = "0b5f8f5e-0d5e-4a57-9a58-6a2f8f0a1c11";
  expect(pathForLog(`/people/${id}/reach?secret=1`)).toBe("/people/:id/reach");
  expect(pathForLog("/p/aQ7_x9-Zk3Lm2Nn8Pq1Rr5Ss")).toBe("/p/:id");
  expect(pathForLog("/in/Maren%20Hartog")).toBe("/in/:id");
  expect(pathForLog("/api/journal.csv?clientId=x")).toBe("/api/journal.csv");
});

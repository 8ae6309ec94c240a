import fc from "fast-check";
import { SegmentedMessage } from "sms-segments-calculator";
import { describe, expect, it } from "vitest";
import {
  builtInFields,
  foldChart,
  incomingOf,
  comparable,
  likeness,
  personTest,
  prefillFrom,
  reconcileLines,
  type ChartEntry,
  type ClientIdentity,
  type EntryChange,
} from "../../src/core/chart";
import { textParts } from "../../src/core/messages";
import {
  after,
  detailsMatch,
  doorFor,
  doorSentence,
  doorWays,
  isOpenAgain,
  sendingOrder,
  startingDoor,
} from "../../src/core/packet";
import {
  applyChange,
  checkAnswer,
  allQuestions,
  noAnswers,
  readChange,
  type Answers,
} from "../../src/core/questionnaire";
import { holdsWords, instant, type Id } from "../../src/core/shared";
import { fromRepository } from "../support/questionnaires";

describe("a text message", () => {
  const byLibrary = (text: string) => {
    const m = new SegmentedMessage(text, "auto");
    return { alphabet: m.encodingName === "GSM-7" ? "GSM-7" : "UCS-2", parts: text === "" ? 0 : m.segmentsCount };
  };
  const tricky: readonly [string, string][] = [
    ["nothing", ""],
    ["160 plain", "a".repeat(160)],
    ["161 plain", "a".repeat(161)],
    ["306", "a".repeat(306)],
    ["307", "a".repeat(307)],
    ["brackets at the end of a part", `${"a".repeat(152)}[${"a".repeat(10)}`],
    ["160 with a euro", `${"a".repeat(158)}€`],
    ["161 by a euro", `${"a".repeat(159)}€`],
    ["Greek capitals", "ΔΦΓΛΩΠΨΣΘΞ".repeat(16)],
    ["small Greek", "δ"],
    ["é and ç", "é".repeat(160)],
    ["ç, which is not there", "ç"],
    ["a curly apostrophe", `we’ll ${"a".repeat(70)}`],
    ["70 Arabic", "ا".repeat(70)],
    ["71 Arabic", "ا".repeat(71)],
    ["an emoji", `${"a".repeat(68)}😀`],
    ["an emoji at the seam", `${"ا".repeat(66)}😀${"ا".repeat(10)}`],
    ["emoji only", "😀".repeat(36)],
    ["line breaks", "a\nb\r\nc"],
    ["all brackets", "[]{}~^|\\€".repeat(20)],
  ];
  it.each(tricky)("%s: as another library counts it (3GPP TS 23.038)", (_, text) => {
    expect(textParts(text)).toMatchObject(byLibrary(text));
  });
  it("is counted as another library does, whatever is in it", () => {
    const signs = fc.constantFrom(..."abc 1[]€{éçÆΔδا’\n", "😀");
    fc.assert(
      fc.property(
        fc.array(signs, { maxLength: 340 }).map((a) => a.join("")),
        (text) => {
          expect(textParts(text)).toMatchObject(byLibrary(text));
        },
      ),
      { numRuns: 300 },
    );
  });
  it("names the sign that makes it costlier", () => {
    expect([textParts("Come at 9").costly, textParts("We’ll call").costly, textParts("سلام").costly]).toEqual([
      undefined,
      "’",
      "س",
    ]);
  });
});

describe("finding somebody", () => {
  const ines: ClientIdentity = {
    firstName: "Inés",
    lastName: "Halvorsen",
    preferredName: "Nessa",
    birthDate: "1991-04-17",
    email: "ines.halvorsen@mail.example",
    phone: "020 7946 0314",
  };
  it.each([
    ["ines", true],
    ["HALV ines", true],
    ["nessa", true],
    ["mail.example", true],
    ["0314", true],
    ["(020) 7946-0314", true],
    ["17.4.1991", true],
    ["17/04/91", true],
    ["1991-04-17", true],
    ["ines 17.4.1991", true],
    ["", true],
    ["ines 18.4.1991", false],
    ["9999", false],
    ["+44 20 7946", true],
    ["0044 20 7946 0314", true],
    ["+44 (0)20 7946 0314", true],
    ["+33 1 44", false],
    ["halvorson", false],
  ])("“%s”", (sought, found) => {
    expect(personTest(sought)(comparable(ines))).toBe(found);
  });
  it.each([
    ["ete phq", true],
    ["ÉTÉ", true],
    ["", true],
    ["ete gad", false],
  ])("a title by “%s”", (sought, found) => {
    expect(holdsWords("Votre été : PHQ-9", sought)).toBe(found);
  });
  it.each<[string, Partial<ClientIdentity>, string[]]>([
    ["nothing in common", { firstName: "Bram", lastName: "Okafor" }, []],
    ["the same mail, in capitals", { firstName: "I", lastName: "H", email: "INES.HALVORSEN@mail.example" }, ["email"]],
    ["the same phone, from abroad", { firstName: "X", lastName: "Y", phone: "+44 20 7946 0314" }, ["phone"]],
    ["no accent", { firstName: "Ines", lastName: "Halvorsen" }, ["name"]],
    ["turned around", { firstName: "Halvorsen", lastName: "Inés" }, ["name"]],
    ["a letter too many", { firstName: "Inés", lastName: "Halvorssen" }, ["name"]],
    ["two letters swapped", { firstName: "Inés", lastName: "Havlorsen" }, ["name"]],
    ["a slip in each name", { firstName: "Inez", lastName: "Halvorson" }, ["name"]],
    ["two slips in one", { firstName: "Ines", lastName: "Halverson" }, []],
    [
      "the same birth date too",
      { firstName: "Ines", lastName: "Halvorsen", birthDate: "1991-04-17" },
      ["name-and-birth-date"],
    ],
    ["the same name, another birth date", { firstName: "Inés", lastName: "Halvorsen", birthDate: "2003-04-17" }, []],
  ])("%s", (_, fresh, why) => {
    expect(likeness(comparable({ firstName: "", lastName: "", ...fresh }), comparable(ines))).toEqual(why);
  });
});

it("a standing packet keeps its order: what was taken out is gone, what was ticked besides comes after, as listed", () => {
  expect(sendingOrder(["b", "d", "a", "c"], ["c", "x", "a"], ["a", "b", "c", "d", "e"])).toEqual(["c", "a", "b", "d"]);
});

describe("what is on file", () => {
  const questionnaire = fromRepository("adult-intake");
  const chartOf = (changes: readonly EntryChange[]) =>
    foldChart(
      changes.map((change, i): ChartEntry => ({
        seq: i + 1,
        posting: "p" as Id<"Posting">,
        at: instant("2026-11-25T08:00:00Z"),
        by: "x",
        source: { kind: "staff", reason: "x" },
        change,
      })),
    );
  const words = fc.constantFrom(
    "Ines",
    "Once a week",
    "7",
    "Yes",
    "nonsense",
    "1991-04-17",
    "ines@mail.example",
    "020 7946 0314",
    "Parent",
    "she / her",
    "",
    "a; b",
  );
  const charts = fc
    .tuple(
      fc.dictionary(fc.constantFrom(...builtInFields.filter((f) => f.kind !== "rows").map((f) => f.key)), words),
      fc.array(fc.record({ name: words, dose: words }), { maxLength: 3 }),
    )
    .map(([values, rows]) =>
      chartOf([
        ...Object.entries(values).map(([field, value]): EntryChange => ({ kind: "set", field, value })),
        ...rows.map((value, i): EntryChange => ({ kind: "row", field: "medicines", row: `r${i}`, value })),
      ]),
    );
  it("begins a questionnaire with answers only that a browser could have sent, and returned unchanged it changes nothing in the chart", () => {
    fc.assert(
      fc.property(charts, (chart) => {
        const changes = prefillFrom(questionnaire, chart, builtInFields);
        for (const change of changes) {
          expect(readChange(questionnaire, change).ok).toBe(true);
          if (change.kind === "values")
            expect(
              checkAnswer(
                allQuestions(questionnaire).find((i) => change.key.endsWith(i.linkId))!,
                change.key,
                change.values,
              ),
            ).toEqual([]);
        }
        // Yes to what opens follow-ups, so that all of it is shown.
        const opened = allQuestions(questionnaire)
          .filter((i) => i.type === "boolean" && !i.posting)
          .map((i) => ({
            kind: "values" as const,
            key: i.linkId,
            values: [{ type: "boolean" as const, value: true }],
          }));
        const answers = [...opened, ...changes].reduce<Answers>(applyChange, noAnswers);
        const lines = reconcileLines(chart, incomingOf(questionnaire, answers, builtInFields));
        expect(lines.filter((l) => l.status === "differs")).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });
  it("fills what fits and leaves out what does not", () => {
    const got = Object.fromEntries(
      prefillFrom(
        questionnaire,
        chartOf([
          { kind: "set", field: "first-name", value: "Ines" },
          { kind: "set", field: "birth-date", value: "unknown" },
          { kind: "set", field: "sleep-hours", value: "7" },
          { kind: "row", field: "medicines", row: "r", value: { name: "Iron", dose: "65 mg" } },
        ]),
        builtInFields,
      ).map((c) => [c.key, c.kind === "rows" ? c.rows : c.values[0]!.value]),
    );
    expect(got).toMatchObject({
      medicines: ["p1"],
      "medicines:p1/medicine-name": "Iron",
      "medicines:p1/medicine-dose": "65 mg",
    });
    expect(Object.values(got)).toContain("Ines");
    expect(Object.values(got)).not.toContain("unknown");
  });
});

it("a packet that was sent back takes its own answers, and the rows and answers within a group that is open, and no others", () => {
  const sentBack = {
    at: "",
    by: "",
    lines: [
      { partId: "p", key: "medicines", reason: "x" },
      { partId: "p", key: "sleep", reason: "y" },
    ],
  };
  expect(
    ["medicines", "medicines:a/name", "sleep", "sleep2", "other", "other:a/sleep"].map((key) =>
      isOpenAgain(sentBack, "p", { key }),
    ),
  ).toEqual([true, true, true, false, false, false]);
  expect(isOpenAgain(sentBack, "q", { key: "sleep" })).toBe(false);
  expect([after("returned", "send-back"), after("settled", "send-back"), after("sent-back", "return")]).toEqual([
    "sent-back",
    undefined,
    "returned",
  ]);
});

describe("the door", () => {
  it("is never opened by the link alone unless that was chosen, whatever is on file", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...doorWays),
        fc.option(fc.constantFrom(...doorWays)),
        fc.constantFrom("read-out", "details") as fc.Arbitrary<"read-out" | "details">,
        fc.option(fc.constant("a@b.example"), { nil: undefined }),
        fc.option(fc.constant("020 7946 0000"), { nil: undefined }),
        fc.boolean(),
        fc.boolean(),
        (way, own, ifMissing, email, phone, details, holdsChart) => {
          const contactOf = () => {
            if (email) return { channel: "email" as const, to: email };
            if (phone) return { channel: "text" as const, to: phone };
            return undefined;
          };
          const contact = contactOf();
          const policy = { ...startingDoor, way, ifMissing };
          const door = doorFor(policy, own, { contact, email, phone, details }, holdsChart);
          const asked = (own ?? way) === "none" && holdsChart ? "contact" : (own ?? way);
          expect(door.way === "none").toBe(asked === "none");
          // True details that are not on file would count as wrong: they are never asked then.
          if (door.way === "details") expect(details).toBe(true);
          if (door.way === "code") expect([email, phone]).toContain(door.to);
          else if (["contact", "email", "text"].includes(asked))
            expect(door.way).toBe(ifMissing === "details" && details ? "details" : "read-out");
          // Whoever is told before, in the letter and at the door is told the same.
          expect(door.missing !== undefined).toBe(
            !{
              contact: contact !== undefined,
              email: email !== undefined,
              text: phone !== undefined,
              details,
              "read-out": true,
              none: true,
            }[asked],
          );
          for (const language of ["en", "es", "fr", "ar"]) {
            const said = doorSentence(door, language);
            expect(said === "").toBe(door.way === "none");
            const codeByMail = { en: "by e-mail", es: "por correo", fr: "par e-mail", ar: "بالبريد" }[language]!;
            expect(said.includes(codeByMail)).toBe(door.way === "code" && door.channel === "email");
          }
        },
      ),
    );
  });
  const noor = { birthDate: "2011-02-11", lastName: "Vance-Öberg", address: "4 Boathouse Lane\nFernhollow FH1 2QT" };
  it.each<["last-name" | "postcode", string, string, boolean]>([
    ["last-name", "2011-02-11", " vance oberg ", true],
    ["last-name", "2011-02-11", "Vance", false],
    ["last-name", "2011-02-12", "Vance-Öberg", false],
    ["last-name", "2011-02-11", "", false],
    ["postcode", "2011-02-11", "fh1 2qt", true],
    ["postcode", "2011-02-11", "FH12QT", true],
    ["postcode", "2011-02-11", "2QT", false],
    ["postcode", "2011-02-11", "hollow", false],
  ])("%s: %s and “%s”", (details, birthDate, word, same) => {
    expect(detailsMatch(details, { birthDate, word }, noor)).toBe(same);
  });
  it("matches nothing where nothing is on file", () => {
    expect(detailsMatch("last-name", { birthDate: "", word: "" }, { lastName: "" })).toBe(false);
    expect(
      detailsMatch(
        "postcode",
        { birthDate: "2011-02-11", word: "fh1 2qt" },
        { birthDate: "2011-02-11", lastName: "V" },
      ),
    ).toBe(false);
  });
});

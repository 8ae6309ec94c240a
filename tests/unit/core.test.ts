import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  fillWording,
  maskContact,
  checkWording,
  letterKinds,
  lockedLetter,
  mustHave,
  placeholders,
  startingLetters,
  type LetterKind,
} from "../../src/core/messages";
import { quotable } from "../../src/core/notes";
import { after, packetStates, readinessOf, stateAt } from "../../src/core/packet";
import { canonicalText, isDrawnPath, signedText } from "../../src/core/signing";
import { instant, plainDigits, plainNumber } from "../../src/core/shared";
import { at, boundsOf, dayIn, isDay } from "../../src/core/scheduling";
import { getCountries, getExampleNumber, isPossiblePhoneNumber, type PhoneNumber } from "libphonenumber-js";
import examples from "libphonenumber-js/examples.mobile.json";
import { isDate, isEmail, isPhone, type Answers } from "../../src/core/questionnaire";
import { fromRepository } from "../support/questionnaires";

const now = instant("2026-11-25T08:00:00Z");

describe("days in a zone", () => {
  it("are 23 and 25 hours long where clocks change (IANA: Europe/London, 29 March and 25 October 2026)", () => {
    const hours = (day: string): number => {
      const [a, b] = boundsOf(day, "Europe/London");
      return (Date.parse(b) - Date.parse(a)) / 3_600_000;
    };
    expect([hours("2026-03-29"), hours("2026-10-25"), hours("2026-11-25")]).toEqual([23, 25, 24]);
  });
  it("turn wall-clock times into moments and back", () => {
    expect(at("2026-07-01", "09:30", "Europe/London")).toBe("2026-07-01T08:30:00.000Z");
    fc.assert(
      fc.property(
        fc.date({ min: new Date("2000-01-01"), max: new Date("2040-01-01"), noInvalidDate: true }),
        fc.constantFrom("Europe/London", "Asia/Kolkata", "America/St_Johns", "Pacific/Apia"),
        (date, zone) => {
          const moment = instant(date.getTime());
          const [start, end] = boundsOf(dayIn(moment, zone), zone);
          expect(start <= moment && moment < end).toBe(true);
        },
      ),
    );
  });
  it("are days of the calendar", () => {
    expect(["2026-02-29", "2024-02-29", "2026-13-01", "today", "2026-1-1"].map(isDay)).toEqual([
      false,
      true,
      false,
      false,
      false,
    ]);
    expect(["2023-02-29", "2024-02-29", "1900-02-29", "2000-02-29", "1700-01-01"].map(isDate)).toEqual([
      false,
      true,
      false,
      true,
      false,
    ]);
  });
});

describe("wordings", () => {
  const values = Object.fromEntries(placeholders.map((p) => [p, `<${p}>`]));
  const all = [
    ...Object.entries(startingLetters).flatMap(([language, letters]) =>
      letterKinds.flatMap((kind) =>
        (["email", "text"] as const).map(
          (way) => [`${kind} by ${way} in ${language}`, letters[kind][way], mustHave(kind)] as const,
        ),
      ),
    ),
    ["locked", lockedLetter, "link"] as const,
  ];
  it.each(all)("%s fills with what it must have, and says nothing about health", (_, wording, must) => {
    const [kind, , way] = _.split(" ");
    if (kind !== "locked")
      expect(checkWording(kind as LetterKind, way as "email" | "text", wording)).toEqual({ ok: true, value: null });
    const filled = fillWording(wording, values, [must]);
    expect(filled.ok && !filled.value.body.includes("{{")).toBe(true);
    expect(`${wording.subject} ${wording.body}`).not.toMatch(/PHQ|health|symptom|consent|depress/i);
  });
  it("refuses unknown placeholders and a missing link", () => {
    expect(fillWording({ subject: "", body: "Hello {{client.frstName}} {{link}}" }, values, ["link"])).toEqual({
      ok: false,
      error: { reason: "unknown-placeholder", names: ["client.frstName"] },
    });
    expect(fillWording({ subject: "{{link}}", body: "Hello" }, values, ["link"])).toEqual({
      ok: false,
      error: { reason: "missing", names: ["link"] },
    });
  });
  it("never fills a value twice: a name that looks like a placeholder stays a name", () => {
    expect(
      fillWording({ subject: "", body: "{{client.firstName}}" }, { "client.firstName": "{{link}}", link: "x" }, []),
    ).toMatchObject({ value: { body: "{{link}}" } });
  });
  it("shows too little of a contact to learn it", () => {
    expect([maskContact("email", "ines.halvorsen@mail.example"), maskContact("text", "020 7946 0314")]).toEqual([
      "i···@m···.example",
      "···314",
    ]);
  });
});

describe("contact formats", () => {
  it("take what people write and refuse what cannot be reached", () => {
    expect(["a@b.example", "ines.h+x@mail.example", "ünï@bücher.example"].every(isEmail)).toBe(true);
    expect(
      ["a@b", "@b.example", "a b@c.example", "a@b..example", "a@@b.example", `${"x".repeat(65)}@b.example`].some(
        isEmail,
      ),
    ).toBe(false);
    expect(["020 7946 0314", "+44 (0)20 7946-0314", "1234567"].every(isPhone)).toBe(true);
    expect(["12345", "call me", "1234567890123456", ""].some(isPhone)).toBe(false);
    expect(["٠٢٠ ٧٩٤٦ ٠٣١٤", "۰۲۰ ۷۹۴۶ ۰۳۱۴"].map(plainDigits)).toEqual(["020 7946 0314", "020 7946 0314"]);
    expect(["٠٢٠ ٧٩٤٦ ٠٣١٤", "۰۲۰ ۷۹۴۶ ۰۳۱۴"].every(isPhone)).toBe(true);
    // Unicode's own decimal values, digit by digit.
    for (const zero of [0x660, 0x6f0])
      for (let digit = 0; digit < 10; digit++)
        expect(plainDigits(String.fromCodePoint(zero + digit))).toBe(String(digit));
    expect(["٣٧٫٥", "37,5", " 37.5 ", "۳۷٫۵", "١٬٢٠٠"].map((t) => Number(plainNumber(t)))).toEqual([
      37.5, 37.5, 37.5, 37.5, 1200,
    ]);
    // Against libphonenumber's metadata: every country's example number, as it is written at home and abroad. Its
    // shortest are four and five digits, which nobody is texted at from abroad.
    const short = (n: PhoneNumber): boolean => n.nationalNumber.length < 7;
    const written = getCountries().flatMap((country) => {
      const n = getExampleNumber(country, examples)!;
      return short(n) ? [] : [n.formatNational(), n.formatInternational(), n.number];
    });
    expect(written.length).toBeGreaterThan(600);
    expect(written.filter((n) => !isPhone(n))).toEqual([]);
    // What it calls too long for any country is too long here.
    expect(
      getCountries()
        .map((c) => `${getExampleNumber(c, examples)!.number}${"0".repeat(10)}`)
        .filter((n) => !isPossiblePhoneNumber(n) && isPhone(n)),
    ).toEqual([]);
  });
});

describe("canonical bytes", () => {
  it("are those of RFC 8785 section 3.2.3 (its example, from memory of the text)", () => {
    const input = {
      // oxlint-disable-next-line no-loss-of-precision -- as it is printed there
      numbers: [333333333.33333329, 1e30, 4.5, 2e-3, 0.000000000000000000000000001],
      // oxlint-disable-next-line no-useless-escape -- as it is printed there
      string: "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/",
      literals: [null, true, false],
    };
    expect(canonicalText(input)).toBe(
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}',
    );
  });
  it("do not depend on the order of keys, and change with every word signed", () => {
    const questionnaire = fromRepository("consent-to-care");
    const answers: Answers = { rows: {}, values: { "agree-care": [{ type: "boolean", value: true }] } };
    const read = (q = questionnaire, a = answers) => signedText(q, a, "", "en");
    const bytes = canonicalText(read());
    const turned = Object.fromEntries(Object.entries(read()).reverse());
    expect(canonicalText(JSON.parse(JSON.stringify(turned)))).toBe(bytes);
    const reworded = { ...questionnaire, items: questionnaire.items.map((i) => ({ ...i, text: `${i.text}.` })) };
    expect(canonicalText(read(reworded))).not.toBe(bytes);
    expect(canonicalText(read(questionnaire, { rows: {}, values: {} }))).not.toBe(bytes);
    expect(canonicalText(signedText(questionnaire, answers, "", "fr"))).not.toBe(bytes);
  });
  it("take a drawn mark only when it is pen moves and nothing else", () => {
    expect(isDrawnPath("M1 2 L3 4 L5 6 L7 8 L9 10 L11 12 ")).toBe(true);
    expect(
      ["M1 2 L3 4", "", 'M1 2 L3 4 L5 6 L7 8 L9 10 L11 12"/><script>', `M1 2 ${"L3 4 ".repeat(20_000)}`].some(
        isDrawnPath,
      ),
    ).toBe(false);
  });
});

describe("a packet", () => {
  it("takes no step after it is withdrawn or settled but being reopened, and lapses only while it is open", () => {
    for (const step of ["send", "pass-door", "answer", "return", "send-back", "withdraw"] as const)
      expect([after("withdrawn", step), after("settled", step)]).toEqual([undefined, undefined]);
    const past = instant("2026-11-24T00:00:00Z");
    for (const state of packetStates)
      if (state !== "lapsed")
        expect(stateAt(state, past, now)).toBe(
          ["sent", "opened", "under-way", "sent-back"].includes(state) ? "lapsed" : state,
        );
  });
  it("makes a visit as ready as its newest packet that was not withdrawn", () => {
    const glance = (state: (typeof packetStates)[number], rest = {}) => ({
      state,
      locked: false,
      answered: 3,
      alerts: 0,
      ...rest,
    });
    expect(readinessOf([])).toMatchObject({ mark: "none", next: "send" });
    expect(readinessOf([glance("settled"), glance("withdrawn")])).toMatchObject({ mark: "settled" });
    expect(readinessOf([glance("settled"), glance("returned", { alerts: 1 })])).toMatchObject({
      words: "Returned, read first",
      next: "read",
    });
    expect(readinessOf([glance("opened", { locked: true })])).toMatchObject({ mark: "locked", next: "reissue" });
  });
});

describe("a note", () => {
  const questionnaire = fromRepository("phq-9");
  const part = {
    partId: "p1",
    questionnaire,
    answers: {
      rows: {},
      values: {
        "44250-9": [
          { type: "coding" as const, value: { system: "http://loinc.org", code: "LA6568-5", display: "Not at all" } },
        ],
      },
    },
  };
  it("leaves out what was hidden", () => {
    expect(quotable(part).some((l) => l.key === "69722-7")).toBe(false);
  });
});

describe("the tokens", () => {
  // WCAG 2.2, 1.4.3 and 1.4.11: relative luminance and contrast as defined there.
  const css = readFileSync(join("src", "ui", "kit", "tokens.css"), "utf8");
  const luminance = (hex: string): number => {
    const [r, g, b] = [1, 3, 5]
      .map((i) => parseInt(hex.slice(i, i + 2), 16) / 255)
      .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
  };
  const contrast = (a: string, b: string): number => {
    const [x, y] = [luminance(a), luminance(b)].sort((m, n) => n - m);
    return (x! + 0.05) / (y! + 0.05);
  };
  it.each([
    ["light", 0],
    ["dark", 1],
  ])("have enough contrast in %s", (_, nth) => {
    const block = css.split(":root {")[nth + 1]!.split("}")[0]!;
    const colour = (name: string): string => new RegExp(`--${name}: (#[0-9a-f]{6})`).exec(block)![1]!;
    for (const text of ["ink", "soft", "plum", "fern", "clay", "madder"])
      for (const ground of ["paper", "leaf"])
        expect(contrast(colour(text), colour(ground)), `${text} on ${ground}`).toBeGreaterThanOrEqual(4.5);
    for (const [text, ground] of [
      ["on-plum", "plum"],
      ["fern", "fern-wash"],
      ["clay", "clay-wash"],
      ["madder", "madder-wash"],
      ["madder", "clay-wash"],
      ["clay", "clay-wash"],
      ["soft", "fern-wash"],
      ["soft", "clay-wash"],
      ["soft", "plum-wash"],
      ["plum", "fern-wash"],
    ])
      expect(contrast(colour(text!), colour(ground!)), `${text} on ${ground}`).toBeGreaterThanOrEqual(4.5);
    expect(contrast(colour("rule-strong"), colour("leaf"))).toBeGreaterThanOrEqual(3);
  });
});

describe("letters and marks", () => {
  it("mask short and odd contacts without giving them whole", () => {
    for (const [channel, to] of [
      ["email", "a@b.example"],
      ["email", "x@y"],
      ["text", "12"],
      ["text", ""],
    ] as const) {
      const masked = maskContact(channel, to);
      expect(masked).toContain("···");
      if (to.length > 3) expect(masked).not.toContain(to);
    }
  });
  it("of a code tell how long it works, and have no link in them that somebody could be lured to", () => {
    for (const { code } of Object.values(startingLetters))
      for (const { body } of [code.email, code.text]) {
        expect(body).toContain("10");
        expect(body).not.toContain("{{link}}");
      }
  });
});

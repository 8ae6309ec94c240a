import { describe, expect, it } from "vitest";
import { codeSchema, signInSchema, signSchema } from "../../src/core/forms";
import { instant, isBefore, isSameOrigin, laterBy } from "../../src/core/shared";
import { clientWords, problemWords } from "../../src/i18n/client-words";
import { clockTime, dayTitle, fullMoment, nearDay, nearMoment } from "../../src/i18n/moments";

const frame = { locale: "en-GB", zone: "Europe/London", now: instant("2026-11-25T08:10:00Z") };

describe("moments", () => {
  it.each([
    ["2026-11-25T11:00:00Z", "today 11:00"],
    ["2026-11-26T09:30:00Z", "tomorrow 09:30"],
    ["2026-11-24T17:10:00Z", "yesterday 17:10"],
    ["2026-11-30T09:30:00Z", "Mon 30 Nov 09:30"],
    ["2026-07-18T09:30:00Z", "Sat 18 Jul 10:30"],
  ])('%s reads "%s"', (at, words) => {
    expect(nearMoment(instant(at), frame).replace(/,/g, "")).toBe(words);
  });
  it("names the year when it is another one, and never the server's zone", () => {
    expect(nearDay(instant("2025-03-01T12:00:00Z"), frame)).toBe("1 Mar 2025");
    expect(clockTime(instant("2026-07-01T08:30:00Z"), { ...frame, zone: "Asia/Kolkata" })).toBe("14:00");
    expect(fullMoment(instant("2026-11-25T23:30:00Z"), { ...frame, zone: "Asia/Tokyo" })).toContain("Thursday");
  });
  it("are in the reader's locale", () => {
    expect(dayTitle("2026-11-25", "en-GB")).toBe("Wednesday 25 November");
    expect(nearDay(instant("2026-11-26T09:30:00Z"), { ...frame, locale: "ar" })).toBe("غدًا");
  });
  it("compare and move as time does", () => {
    expect([isBefore(frame.now, laterBy(frame.now, 1)), isBefore(frame.now, frame.now)]).toEqual([true, false]);
    expect(() => instant("soon")).toThrow(RangeError);
  });
});

describe("the client's words", () => {
  it("count in the language's own plural", () => {
    const t = clientWords("door");
    expect([t("wrong", { left: 4 }), t("wrong", { left: 1 })]).toEqual([
      "That is not the code. You have 4 tries left.",
      "That is not the code. You have 1 try left.",
    ]);
    expect(clientWords("fill")("problems", { count: 1 })).toBe("One answer needs a look");
  });
  it("say what is wrong with an answer, with its limit", () => {
    expect([problemWords("tooLong", "80"), problemWords("decimals", "1"), problemWords("missing", "")]).toEqual([
      "This is too long. The most is 80 signs.",
      "Use no more than 1 digit after the point.",
      "Please answer this one.",
    ]);
  });
  it("fall back to English where a language is not there yet", () => {
    expect(clientWords("door", "xx")("title")).toBe("Is it you?");
  });
});

describe("forms", () => {
  it("take a code with blanks in it, and nothing that is no code", () => {
    expect(codeSchema.validateSync({ code: " 123 456 " })).toEqual({ code: "123456" });
    // The digits that an Arabic or a Persian keyboard types, with the marks of direction that come with a pasted text.
    expect(codeSchema.validateSync({ code: "\u200F١٢٣ ٤٥٦" })).toEqual({ code: "123456" });
    expect(codeSchema.validateSync({ code: "۱۲۳۴۵۶" })).toEqual({ code: "123456" });
    for (const code of ["", "12345", "1234567", "12a456", "一二三四五六"])
      expect(codeSchema.isValidSync({ code }), code).toBe(false);
  });
  it("name what is missing field by field", () => {
    expect(() => signInSchema.validateSync({ email: "x", password: "" }, { abortEarly: false })).toThrow(
      "2 errors occurred",
    );
    expect(signSchema.isValidSync({ name: " I " })).toBe(false);
    expect(signSchema.validateSync({ name: " Ines Halvorsen " })).toEqual({
      name: "Ines Halvorsen",
      path: "",
      png: "",
      way: "typed",
    });
  });
});

describe("same origin", () => {
  const from = (headers: Record<string, string>): boolean => isSameOrigin(new Headers(headers));
  it.each<[Record<string, string>, boolean]>([
    [{ "sec-fetch-site": "same-origin" }, true],
    [{ "sec-fetch-site": "none" }, false],
    [{ "sec-fetch-site": "same-site" }, false],
    [{ "sec-fetch-site": "cross-site", origin: "http://a.example", host: "a.example" }, false],
    [{ origin: "https://a.example", host: "a.example" }, true],
    [{ origin: "https://a.example:8443", host: "a.example" }, false],
    [{ origin: "null", host: "null" }, false],
    [{ origin: "https://a.example.evil.example", host: "a.example" }, false],
    [{}, false],
    [{ host: "a.example" }, false],
  ])("%j is %s", (headers, expected) => {
    expect(from(headers)).toBe(expected);
  });
});

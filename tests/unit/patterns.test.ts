import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { textFormats } from "../../src/core/questionnaire";
import { linearPatterns } from "../../src/core/questionnaire/linear-pattern";
import { costlyPatterns, refusedPatterns } from "../hostile/patterns";

describe("a pattern from a file", () => {
  // A matcher with backtracking is not through with any of these before the test's time is.
  it.each(costlyPatterns)("%s is matched in one go", (pattern, text) => {
    expect(linearPatterns.problem(pattern)).toBeUndefined();
    expect(linearPatterns.fits(pattern, `${text}!`)).toBe(false);
  });
  it.each(refusedPatterns)("%s is refused by name", (pattern, says) => {
    expect(linearPatterns.problem(pattern)).toMatch(says);
  });
  it("is not refused for signs that mean nothing here", () => {
    for (const pattern of ["[(?=]+", "\\(\\?=", "[+]+x", "\\++", "\\\\[12]", ...textFormats.map((f) => f.pattern)])
      expect([pattern, linearPatterns.problem(pattern)]).toEqual([pattern, undefined]);
  });
  it("says the same as the language's own matcher (ECMA-262, u) wherever both take it, on whole texts only (any pattern)", () => {
    const sign = fc.constantFrom(
      "a",
      "b",
      "é",
      "7",
      "-",
      "ع",
      "😀",
      "\\d",
      "\\w",
      "\\s",
      ".",
      "[ab]",
      "[^a]",
      "[0-9a-c]",
      "\\p{L}",
      "\\u0062",
      "\\-",
      "(?:ab|b)",
      "(a|7)",
    );
    const times = fc.constantFrom("", "", "?", "*", "+", "{2}", "{0,3}", "{1,}", "*?");
    const piece = fc.tuple(sign, times).map(([s, t]) => (s === "\\-" ? `[\\-]${t}` : s + t));
    const pattern = fc.array(piece, { minLength: 1, maxLength: 4 }).map((all) => all.join(""));
    const either = fc.tuple(pattern, pattern).map(([a, b]) => `${a}|${b}`);
    const text = fc
      .array(fc.constantFrom("a", "b", "é", "7", "-", "ع", "😀", " ", "c"), { maxLength: 7 })
      .map((all) => all.join(""));
    fc.assert(
      fc.property(fc.oneof(pattern, either), text, (given, words) => {
        expect(linearPatterns.problem(given)).toBeUndefined();
        expect(linearPatterns.fits(given, words)).toBe(new RegExp(`^(?:${given})$`, "u").test(words));
      }),
      { numRuns: 4000 },
    );
  });
  it("ends on any text that calls itself a pattern, with a matcher or a problem (fuzzed)", () => {
    const tokens = fc.constantFrom(
      ..."( ) [ ] { } ? * + | ^ $ . \\ (?: (?= (?< \\d \\p{ \\u{ {2,5} {1000} a 1 - , 😀".split(" "),
    );
    fc.assert(
      fc.property(
        fc.array(tokens, { maxLength: 60 }).map((all) => all.join("")),
        (pattern) => {
          if (linearPatterns.problem(pattern) === undefined) linearPatterns.fits(pattern, "a1-😀".repeat(500));
        },
      ),
      { numRuns: 1500 },
    );
  });
});

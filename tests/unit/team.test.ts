import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { mayStepBack, rights, rightsOf, startingRights, wholeSet, without } from "../../src/core/team";
import { mondayOf, timesOf } from "../../src/core/scheduling";
import { inFours, instantMs, onOneLine, readableCode, roles, typedCode, type Id } from "../../src/core/shared";
import { argonPasswords } from "../../src/adapters/passwords";

const sets = fc.subarray([...rights]);

describe("rights", () => {
  it("a set that is whole stays as it is, and holds everything that its rights need", () => {
    for (const role of roles) expect(wholeSet(startingRights[role]), role).toEqual(startingRights[role]);
    fc.assert(
      fc.property(sets, (chosen) => {
        const whole = wholeSet(chosen);
        expect(wholeSet(whole)).toEqual(whole);
        expect(chosen.every((right) => whole.includes(right))).toBe(true);
      }),
    );
  });
  it("a right that is taken out takes what needs it, and leaves a whole set", () => {
    expect(without(startingRights.practitioner, "answers.read")).not.toContain("note.write");
    fc.assert(
      fc.property(sets, fc.constantFrom(...rights), (chosen, right) => {
        const left = without(wholeSet(chosen), right);
        expect(left).not.toContain(right);
        expect(wholeSet(left)).toEqual(left);
      }),
    );
  });
  it("an owner's are all, whatever the practice's sets", () => {
    expect(rightsOf("owner", { office: [] })).toEqual(rights);
    expect(rightsOf("office", { office: [] })).toEqual([]);
    expect(rightsOf("office", {})).not.toContain("answers.read");
  });
  it("the last owner who can sign in does not step back", () => {
    const member = (id: string, role: "owner" | "office", away = false) => ({ id: id as Id<"Staff">, role, away });
    const a = "a" as Id<"Staff">;
    expect(mayStepBack([member("a", "owner"), member("b", "office")], a)).toBe(false);
    expect(mayStepBack([member("a", "owner"), member("b", "owner", true)], a)).toBe(false);
    expect(mayStepBack([member("a", "owner"), member("b", "owner")], a)).toBe(true);
  });
});

describe("codes that are read off a screen", () => {
  it("come back as they were, however they are typed, and hold no sign that is taken for another", () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 24, maxLength: 24 }), (bytes) => {
        const code = readableCode(bytes, 12);
        expect(code).toMatch(/^[A-HJ-NP-Z2-9]{12}$/);
        for (const typed of [inFours(code), inFours(code).toLowerCase(), ` ${inFours(code).replaceAll("-", " ")} `])
          expect(typedCode(typed)).toBe(code);
      }),
    );
  });
});

describe("times of visits", () => {
  it("a week begins on Monday (ISO 8601), in every year", () => {
    expect(["2026-11-23", "2026-11-29", "2027-01-01", "2028-02-29"].map(mondayOf)).toEqual([
      "2026-11-23",
      "2026-11-23",
      "2026-12-28",
      "2028-02-28",
    ]);
  });
  it("repeats keep the time by the wall clock, so that some weeks are an hour shorter or longer", () => {
    // Clocks in London go back on 25 October 2026 and forward on 28 March 2027.
    const starts = timesOf({ day: "2026-10-19", time: "09:00", minutes: 50 }, 26, 1, "Europe/London").map((one) =>
      instantMs(one.startsAt),
    );
    const hours = starts.slice(1).map((start, index) => (start - starts[index]!) / 3_600_000);
    expect([hours.filter((h) => h === 169).length, hours.filter((h) => h === 167).length]).toEqual([1, 1]);
    expect(hours.filter((h) => h === 168).length).toBe(23);
  });
});

describe("passwords", () => {
  // Commonness is worked out by a well-kept package; here it is asked what must not pass, and what must.
  it("that everybody has, keys in a row, and hardly more than who it is for are refused; words in a row are not", () => {
    const about = ["Larkfield Rooms", "Orla Byrne", "orla@larkfield.example"];
    for (const common of [
      "passwordpassword",
      "qwertyuiopasdfghjkl",
      "aaaaaaaaaaaaaaaaaaaa",
      "Orla Byrne Larkfield 2026",
    ])
      expect(argonPasswords.isCommon(common, about), common).toBe(true);
    for (const good of ["walnut mooring tuesday", "heron-reed-lantern-42", "صباح الخير يا بحر هادئ"])
      expect(argonPasswords.isCommon(good, about), good).toBe(false);
  });
  it("that are long are looked at in a moment", () => {
    expect(argonPasswords.isCommon("ab".repeat(100), [])).toBe(true);
  });
});

describe("an address in lines", () => {
  it("stands in a row", () => {
    expect(onOneLine("1 Quay Street,\r\n\nGalway ")).toBe("1 Quay Street, Galway");
    expect(onOneLine("")).toBe("");
  });
});

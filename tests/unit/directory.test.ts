import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { comparable, Directory, nameOf, personTest, type DirectoryEntry } from "../../src/core/chart";
import { instant, plainLetters, type Id } from "../../src/core/shared";

let made = 0;
const entry = (of: Partial<DirectoryEntry>): DirectoryEntry => ({
  id: `c${++made}` as Id<"Client">,
  firstName: "Inés",
  lastName: "Halvorsen",
  archivedAt: null,
  mergedInto: null,
  ...of,
});
const directoryOf = (people: readonly DirectoryEntry[]): Directory<DirectoryEntry> => {
  const directory = new Directory<DirectoryEntry>("en-GB");
  directory.take(people);
  return directory;
};
const everybody = undefined;

describe("the directory", () => {
  const ines = entry({ email: "ines.halvorsen@mail.example", phone: "020 7946 0314", birthDate: "1991-04-17" });
  const people = [
    ines,
    entry({ firstName: "Halvor", lastName: "Son", email: "h.son@mail.example" }),
    entry({ phone: "+44 20 7946 0999", birthDate: "1991-05-04" }),
    entry({ firstName: "Łukasz", lastName: "Żak", preferredName: "Luke" }),
    entry({ firstName: "نور", lastName: "الخطيب" }),
  ];
  const directory = directoryOf(people);
  const found = (sought: string): string[] =>
    directory
      .view(everybody)
      .find(sought, "last")
      .map((one) => one.id);
  it.each([
    ["halvorsen", 2],
    ["HALV ines", 2],
    // The middle of a word is found where no beginning is.
    ["vorsen", 2],
    ["mail.example", 2],
    ["0314", 1],
    ["020 7946 0999", 1],
    ["17.4.1991", 1],
    ["ines 17/04/91", 1],
    // The fourth of May and the fifth of April are typed alike.
    ["4/5/1991", 1],
    ["5/4/1991", 1],
    ["zak", 1],
    ["luke", 1],
    ["نور", 1],
    // As typed it is nobody; one letter off it is two.
    ["halvorson", 2],
    ["hlavorsen inés", 2],
    ["halverson", 0],
    ["inz", 0],
    ["", 5],
  ])("“%s” finds %i", (sought, count) => {
    expect(found(sought)).toHaveLength(count);
  });
  it("puts whoever is called so before whoever is written to so, and the archived last", () => {
    const named = entry({ firstName: "Mia", lastName: "Storm" });
    const written = entry({ firstName: "Abe", lastName: "Cole", email: "storm@mail.example" });
    const gone = entry({ firstName: "Ada", lastName: "Storm", archivedAt: instant(0) });
    const view = directoryOf([written, gone, named]).view(everybody);
    expect(view.find("storm", "last")).toEqual([named, written, gone]);
    expect(view.find("storm", "left-out")).toEqual([named, written]);
    expect(view.find("storm", "only")).toEqual([gone]);
  });
  it("knows a changed name by the new one only, and who was made one with another not at all", () => {
    const here = directoryOf([ines]);
    here.take([{ ...ines, lastName: "Marsh", email: "ines@mail.example" }]);
    expect([here.view(everybody).find("halvorsen", "last"), here.view(everybody).find("marsh", "last")]).toMatchObject([
      [],
      [{ id: ines.id }],
    ]);
    here.take([{ ...ines, mergedInto: "other" as Id<"Client"> }]);
    expect(here.view(everybody).all("last")).toEqual([]);
    expect(here.view(everybody).find("halvorsen", "last")).toEqual([]);
  });
  it("shows nobody out of sight, whatever is typed, and finds all who are in sight and like it", () => {
    const names = fc.constantFrom("Ines", "Inès", "Hugo", "Halvorsen", "Okafor", "Bram", "Marsh", "Noor");
    const one = fc.record({
      firstName: names,
      lastName: names,
      email: fc.option(fc.constantFrom("a@mail.example", "bram@mail.example"), { nil: undefined }),
      phone: fc.option(fc.constantFrom("020 7946 0314", "+44 20 7946 0999"), { nil: undefined }),
      birthDate: fc.option(fc.constantFrom("1991-04-17", "1985-12-01"), { nil: undefined }),
      archived: fc.boolean(),
      seen: fc.boolean(),
    });
    const typed = fc.oneof(
      names,
      fc.tuple(names, names).map((pair) => pair.join(" ")),
      fc.constantFrom("", "halvorson", "0314", "17.4.1991", "bram@", "mail"),
    );
    fc.assert(
      fc.property(fc.array(one, { maxLength: 25 }), typed, (drawn, sought) => {
        const all = drawn.map(({ archived, seen, email, phone, birthDate, ...name }) => ({
          seen,
          person: entry({
            ...name,
            ...(email ? { email } : {}),
            ...(phone ? { phone } : {}),
            ...(birthDate ? { birthDate } : {}),
            archivedAt: archived ? instant(0) : null,
          }),
        }));
        const inSight = new Set(all.filter(({ seen }) => seen).map(({ person }) => person.id as string));
        const view = directoryOf(all.map(({ person }) => person)).view(inSight);
        const shown = view.find(sought, "last");
        expect(shown.every(({ id }) => inSight.has(id))).toBe(true);
        expect(new Set(shown.map(({ id }) => id)).size).toBe(shown.length);
        expect(view.like({ firstName: "Ines", lastName: "Halvorsen" }).every((l) => inSight.has(l.person.id))).toBe(
          true,
        );
        // Whose name begins with each word that was typed is among them, as the plain comparison says.
        const words = plainLetters(sought).split(/\s+/);
        const begins = all.filter(
          ({ seen, person }) =>
            seen &&
            personTest(sought)(comparable(person)) &&
            words.every((word) =>
              plainLetters(nameOf(person))
                .split(" ")
                .some((name) => name.startsWith(word)),
            ),
        );
        for (const { person } of begins) expect(shown).toContain(person);
        // Who is beyond is never in sight, and only by the whole name and the day.
        const beyond = view.beyond({ firstName: "Ines", lastName: "Halvorsen", birthDate: "1991-04-17" });
        expect(beyond.some(({ id }) => inSight.has(id))).toBe(false);
        expect(beyond.every((p) => plainLetters(nameOf(p)) === "ines halvorsen" && p.birthDate === "1991-04-17")).toBe(
          true,
        );
      }),
    );
  });
});

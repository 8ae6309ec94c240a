import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readHandOff, writeQuestionnaire, type JsonObject } from "../../src/core/fhir";
import {
  insertAfter,
  languagesOf,
  moveItem,
  newLine,
  removeItem,
  setKind,
  textsOf,
  translate,
  translationState,
  type Questionnaire,
} from "../../src/core/questionnaire";
import { libraryRights, type Id, type LibraryRight, type Role } from "../../src/core/shared";
import { libraryRight, mayCall } from "../../src/usecases/kit";
import { fromRepository } from "../support/questionnaires";

const staff = (role: Role) => ({
  kind: "staff" as const,
  id: "x" as Id<"Staff">,
  name: "X",
  email: "",
  role,
  sessionDigest: "",
  address: "",
  device: "",
});
const rank = (right: LibraryRight): number => libraryRights.indexOf(right);

describe("what somebody may do with a questionnaire", () => {
  it("is the most of what everyone may and what was shared with them, and everything for an owner", () => {
    for (const everyone of libraryRights)
      for (const share of [null, ...libraryRights]) {
        for (const role of ["office", "practitioner"] as const)
          expect(rank(libraryRight(staff(role), { everyone, share })), `${role} ${everyone} ${share}`).toBe(
            Math.max(rank(everyone), rank(share ?? "none")),
          );
        expect(libraryRight(staff("owner"), { everyone, share })).toBe("edit");
      }
  });
  it("is nothing for clients and strangers, who may not even ask", () => {
    const from = { address: "", device: "" };
    expect(
      [
        { kind: "stranger" as const, ...from },
        {
          kind: "client" as const,
          packetId: "p" as Id<"Packet">,
          linkId: "l" as Id<"Link">,
          role: "fills" as const,
          passDigest: "",
          ...from,
        },
      ].map((actor) => mayCall("library.read", actor, { rights: {}, secondFactorRequired: false })),
    ).toEqual([false, false]);
  });
});

describe("a hand-off file", () => {
  const file = (q: Questionnaire): JsonObject => JSON.parse(JSON.stringify(writeQuestionnaire(q))) as JsonObject;
  const newest = fromRepository("adult-intake");
  const older = { ...removeItem(newest, "first-name"), version: "0" };
  const bundle = (...resources: unknown[]): string =>
    JSON.stringify({ resourceType: "Bundle", type: "collection", entry: resources.map((resource) => ({ resource })) });
  it("gives all versions, newest first, with every language; a questionnaire alone is one version", () => {
    const read = readHandOff(bundle(file(newest), file(older)));
    // What was translated of a line that is gone does not come along.
    expect(read.ok && read.value.map(file)).toEqual([file(newest), file(older)]);
    expect(readHandOff(JSON.stringify(file(newest)))).toEqual({ ok: true, value: [newest] });
    expect(read.ok && languagesOf(read.value[1]!)).toEqual(["ar", "es", "fr"]);
  });
  it.each<[why: string, text: string, problem: string]>([
    ["not JSON", "{", "not JSON"],
    ["null", "null", "a JSON object"],
    ["a Bundle of nothing", bundle(), "empty"],
    ["entries that are none", JSON.stringify({ resourceType: "Bundle", entry: "x" }), "empty"],
    ["an entry without a resource", JSON.stringify({ resourceType: "Bundle", entry: [null] }), "a JSON object"],
    ["somebody in it", bundle(file(newest), { resourceType: "Patient" }), "a Patient, not a Questionnaire"],
    ["two questionnaires", bundle(file(newest), file({ ...older, url: "urn:other" })), "different questionnaires"],
    ["a Bundle in a Bundle", bundle(JSON.parse(bundle(file(newest)))), "a Bundle, not a Questionnaire"],
    ["too many", bundle(...Array.from({ length: 51 }, () => ({}))), "more than 50"],
    [
      "a questionnaire too large",
      JSON.stringify({ ...file(newest), description: "x".repeat(2_000_001) }),
      "larger than 2 MB",
    ],
    ["a Bundle too large", bundle("x".repeat(15_000_001)), "larger than 15 MB"],
  ])("with %s is refused whole, and says why", (_, text, problem) => {
    expect(readHandOff(text)).toMatchObject({
      ok: false,
      error: expect.arrayContaining([
        expect.objectContaining({ problem: expect.stringContaining(problem) as unknown }),
      ]) as unknown,
    });
  });
});

describe("what is done to a translated questionnaire", () => {
  const intake = fromRepository("adult-intake");
  const ids = textsOf(intake).flatMap((t) => (t.part === "text" && t.linkId ? [t.linkId] : []));
  it("never puts the words of one text under another: each translation is of the text it stands at, or marked", () => {
    const step = fc.record({
      at: fc.nat(ids.length - 1),
      do: fc.constantFrom("up", "down", "remove", "section", "text", "insert"),
    });
    const before = new Map(
      textsOf(intake).map((t) => [
        t.source,
        textsOf(translate(intake, "es")).find((s) => s.place === t.place)?.source ?? "",
      ]),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (steps) => {
        const questionnaire = steps.reduce((now, s, n) => {
          const id = ids[s.at]!;
          if (s.do === "up" || s.do === "down") return moveItem(now, id, s.do === "up" ? -1 : 1);
          if (s.do === "remove") return removeItem(now, id);
          return s.do === "insert"
            ? insertAfter(now, id, { ...newLine("short-text", `new-${n}`), text: `New ${n}` })
            : setKind(now, id, s.do === "text" ? "text" : "section");
        }, intake);
        const spanish = new Map(textsOf(translate(questionnaire, "es")).map((t) => [t.place, t.source]));
        for (const t of textsOf(questionnaire)) {
          const state = translationState(t, questionnaire.translations?.["es"]?.[t.place]);
          if (t.source.startsWith("New ")) expect([state, spanish.get(t.place)]).toEqual(["missing", t.source]);
          else if (t.part === "text" && state === "done") expect(spanish.get(t.place)).toBe(before.get(t.source));
        }
      }),
      { numRuns: 200 },
    );
  });
});

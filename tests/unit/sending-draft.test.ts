import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  beginSending,
  namesNumber,
  placeKey,
  sendingOf,
  stepSending,
  type SendDraft,
  type SendOffer,
  type SendStep,
} from "../../src/core/packet";
import type { Id, Instant } from "../../src/core/shared";
import { untilWarning } from "../../src/ui/kit/use-ends-soon";

const line = (id: string, prefill = false) => ({ id: id as Id<"Questionnaire">, prefill });
const leaflet = (id: string) => id as Id<"Leaflet">;
const offer: SendOffer = {
  questionnaires: [{ id: "a", usual: true }, { id: "b" }, { id: "c", usual: true }, { id: "d" }],
  standing: [
    { id: "first", questionnaires: [line("d", true), line("gone", true), line("a")], leaflets: [leaflet("l1")] },
    { id: "later", questionnaires: [line("b")], leaflets: [], forThis: true },
  ],
};
const given = { expiresOn: "2026-12-09", language: "en", door: "contact" } as const;

describe("a packet being put together", () => {
  it("begins with the standing packet for this kind of visit, else with what is usual, or with what was asked for alone", () => {
    expect(beginSending(offer, given)).toMatchObject({ ...given, standing: "later", chosen: ["b"], people: {} });
    const without = { ...offer, standing: offer.standing.slice(0, 1) };
    expect(beginSending(without, given).chosen).toEqual(["a", "c"]);
    // Who comes with a questionnaire means that one, whatever is usual.
    expect(beginSending(offer, given, "d").chosen).toEqual(["d"]);
  });
  it("keeps a standing packet's order, adds the rest as the library has it, and knows nothing of what is gone", () => {
    let draft = stepSending(offer, beginSending(offer, given), { do: "take", standing: "first" });
    expect(draft).toMatchObject({ chosen: ["d", "a"], prefill: ["d"], leaflets: ["l1"] });
    draft = stepSending(offer, draft, { do: "set", set: { chosen: ["c", "a", "b", "d"] } });
    expect(sendingOf(offer, draft).questionnaireIds).toEqual(["d", "a", "b", "c"]);
    draft = stepSending(offer, draft, { do: "set", set: { chosen: ["c"] } });
    expect(sendingOf(offer, draft)).toMatchObject({ questionnaireIds: ["c"], prefillIds: [] });
  });

  const ids = ["a", "b", "c", "d"];
  const step: fc.Arbitrary<SendStep> = fc.oneof(
    fc.record({ do: fc.constant("take" as const), standing: fc.constantFrom("first", "later", "", "unknown") }),
    fc.record({ do: fc.constant("prefill" as const), id: fc.constantFrom(...ids), on: fc.boolean() }),
    fc.record({
      do: fc.constant("person" as const),
      id: fc.constantFrom("", "r1"),
      role: fc.constantFrom("fills", "reads", undefined),
    }),
    fc.record({
      do: fc.constant("signer" as const),
      key: fc.constantFrom(...ids).map((id) => placeKey(id, "boss place")),
      pick: fc.constantFrom({ who: "named", id: "", name: "Greta Lund", email: "" } as const, undefined),
    }),
    fc.record({ do: fc.constant("set" as const), set: fc.record({ chosen: fc.subarray(ids) }) }),
    fc.record({ do: fc.constant("set" as const), set: fc.record({ line: fc.string(), repeats: fc.boolean() }) }),
  );
  it("sends what was chosen, each once, and nothing else, whatever was done before", () => {
    fc.assert(
      fc.property(fc.array(step), (steps) => {
        const before: SendDraft[] = [beginSending(offer, given)];
        for (const one of steps) before.push(stepSending(offer, before.at(-1)!, one));
        const draft = before.at(-1)!;
        const sent = sendingOf(offer, draft);
        expect([...sent.questionnaireIds].sort()).toEqual([...new Set(draft.chosen)].sort());
        for (const id of sent.prefillIds) expect(sent.questionnaireIds).toContain(id);
        expect(Object.fromEntries(sent.people.map((p) => [p.relationId, p.role]))).toEqual(draft.people);
        // Who was chosen to sign goes out with what they sign, and with nothing that is not sent.
        const signed = ids.filter((id) => draft.signers[placeKey(id, "boss place")] && draft.chosen.includes(id));
        expect(sent.signers.map((s) => [s.questionnaireId, s.place]).sort()).toEqual(
          signed.map((id) => [id, "boss place"]),
        );
        expect(draft).toMatchObject(given);
        // What was typed stays whatever else is chosen.
        const typed = steps.findLast((one) => one.do === "set" && "line" in one.set);
        expect(draft.line).toBe(typed?.do === "set" ? typed.set.line : "");
      }),
    );
  });
});

describe("words for somebody in danger", () => {
  it.each([
    "Call 112.",
    "Appelez le 3114",
    "116 123, day and night",
    "01 76 54 32 10",
    "+44 (0)20 79 46 02 56",
    "اتصل بالرقم ١١٢",
  ])("name a number: %s", (text) => expect(namesNumber(text)).toBe(true));
  it.each(["Call us.", "We answer 9-17.", "Open 9 - 5", "From 8:30 to 17:30", "In room 12", "24/7"])(
    "name none: %s",
    (text) => expect(namesNumber(text)).toBe(false),
  );
});

describe("a session that ends", () => {
  const at = (hour: number): Instant => `2026-11-25T${String(hour).padStart(2, "0")}:00:00Z` as Instant;
  const hour = 3_600_000;
  it("is warned of ten minutes before, however long the page stood open before it was made longer", () => {
    expect(untilWarning(at(20), at(8), 0)).toBe(12 * hour - 600_000);
    // Stayed at 19:50 until 23:00: three hours more, not fourteen.
    expect(untilWarning(at(23), at(8), 12 * hour - 600_000)).toBe(3 * hour);
    expect(untilWarning(at(9), at(8), 2 * hour)).toBe(0);
  });
});

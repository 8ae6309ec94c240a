import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import { proof } from "../../src/core/proof";
import {
  allItems,
  differences,
  emptyQuestionnaire,
  hasOptions,
  insertAfter,
  insertBefore,
  isBareLine,
  kindOf,
  lineKinds,
  meansNone,
  newLine,
  readOptions,
  setKind,
  textsOf,
  updateItem,
  withKind,
  withoutLanguage,
  withTranslation,
  noAnswers,
  type Item,
  type Question,
  type Questionnaire,
} from "../../src/core/questionnaire";
import {
  placesBeforeReturn,
  signaturePlaces,
  signersOf,
  signingPlan,
  signsAt,
  type FillerKind,
} from "../../src/core/signing";
import { anyQuestionnaire, fromRepository, question } from "../support/questionnaires";

const line = (linkId: string, text = linkId): Item => ({ ...newLine("short-text", linkId), text }) as Item;
const section = (linkId: string, ...items: Item[]): Item =>
  ({ ...newLine("section", linkId), text: linkId, items }) as Item;
const made = (...items: Item[]): Questionnaire => ({ ...emptyQuestionnaire("urn:t", "T", "intake", "x"), items });
/** "a s[b c]": keys, with what stands in a section in brackets. */
const shape = (items: readonly Item[]): string =>
  items.map((i) => (i.type === "group" ? `${i.linkId}[${shape(i.items)}]` : i.linkId)).join(" ");

describe("a line that becomes a section", () => {
  it("takes the lines that follow it, up to the next section", () => {
    const written = made(line("a"), line("b"), line("c"), section("s", line("d")));
    expect(shape(setKind(written, "b", "section").items)).toBe("a b[c] s[d]");
    expect(shape(setKind(written, "c", "section").items)).toBe("a b c[] s[d]");
  });
  it("stands at the top level, and splits the section it stood in", () => {
    const written = made(section("s", line("a"), line("b"), line("c")), line("d"));
    expect(shape(setKind(written, "b", "section").items)).toBe("s[a] b[c] d");
    expect(shape(setKind(written, "a", "section").items)).toBe("s[] a[b c] d");
  });
  it("loses no line and moves none past another, wherever it stands", () => {
    fc.assert(
      fc.property(anyQuestionnaire, fc.nat(), (start, n) => {
        const before = allItems(start).map((i) => i.linkId);
        const at = before[n % Math.max(1, before.length)];
        if (at === undefined) return;
        expect(allItems(setKind(start, at, "section")).map((i) => i.linkId)).toEqual(before);
      }),
    );
  });
});

describe("a line that is moved or taken out", () => {
  it("can be put before the first, and before a section as a whole", () => {
    const written = made(line("a"), section("s", line("b")));
    expect(shape(insertBefore(written, "a", line("n")).items)).toBe("n a s[b]");
    expect(shape(insertBefore(written, "b", line("n")).items)).toBe("a s[n b]");
    expect(shape(insertBefore(written, "b", section("t", line("c"))).items)).toBe("a t[c] s[b]");
    expect(insertBefore(written, "nowhere", line("n"))).toEqual(written);
    expect(shape(insertAfter(written, "a", line("n")).items)).toBe("a n s[b]");
  });
  it("is bare only where nothing stands in it", () => {
    for (const kind of lineKinds) expect(isBareLine(newLine(kind, "x")), kind).toBe(true);
    const full: readonly Item[] = [
      line("a"),
      section("", line("b")),
      { ...section("s", line("b")), text: "" },
      question("a", { text: "", options: readOptions("One", [], "urn:o") }),
      question("a", { text: "", help: "Help" }),
      question("a", { text: "", posting: { field: "phone", rule: "ask" } }),
      question("a", {
        text: "",
        score: { method: "sum", items: ["b"], fewestAnswered: 0, proration: "none", bands: [] },
      }),
      { ...line("a", ""), shownWhen: { behavior: "all", conditions: [] } } as Item,
    ];
    for (const one of full) expect(isBareLine(one), JSON.stringify(one)).toBe(false);
  });
});

describe("a kind that is changed and changed back", () => {
  it("loses nothing that only that kind has", () => {
    const rich = question("a", {
      type: "choice",
      text: "How often?",
      required: true,
      options: readOptions("Never = 0\nOften = 1\n! None of these", [], "urn:o"),
    });
    for (const kind of lineKinds) {
      const there = withKind(rich, kind);
      const back = withKind(there, "one-of", rich);
      expect(kindOf(back)).toBe("one-of");
      expect((back as Question).options, kind).toEqual(rich.options);
      expect(back.text).toBe("How often?");
    }
    const scale = { ...newLine("scale", "s"), text: "Pain", minValue: 1, maxValue: 7, ends: ["None", "Most"] } as Item;
    expect(withKind(withKind(scale, "yes-no"), "scale", scale)).toEqual(scale);
    expect(hasOptions(kindOf(withKind(rich, "several-of")))).toBe(true);
  });
  it("offers to let an option of the words “none” rule the others out, in the language it is written in", () => {
    for (const [words, language] of [
      ["None", "en"],
      ["None of these", "en-GB"],
      ["Ninguna de estas", "es"],
      ["Aucun de ces cas", "fr"],
      ["لا شيء مما سبق", "ar"],
      ["None of the above", "de"],
    ] as const)
      expect(meansNone(words, language), words).toBe(true);
    for (const words of ["Nonetheless", "Nuns", "Not often", "Never", ""])
      expect(meansNone(words, "en"), words).toBe(false);
  });
});

describe("what stands alike", () => {
  const options = readOptions("Never\nOften", [], "urn:o");
  const written = made(
    question("a", { type: "choice", text: "A", options }),
    question("b", { type: "choice", text: "B", options }),
    question("c", { type: "choice", text: "Never", options: readOptions("Never", [], "urn:c") }),
  );
  const said = (q: Questionnaire): Record<string, string> =>
    Object.fromEntries(
      textsOf(q).flatMap((t) => {
        const words = q.translations?.["es"]?.[t.place]?.text;
        return words === undefined ? [] : [[t.place, words]];
      }),
    );
  const option = (q: Questionnaire, linkId: string) =>
    textsOf(q).find((t) => t.part === "option" && t.linkId === linkId)!;
  it("is translated once, and what was worded apart stays so", () => {
    const once = withTranslation(written, "es", option(written, "a"), "Nunca");
    expect(Object.values(said(once))).toEqual(["Nunca", "Nunca", "Nunca"]);
    const apart = withTranslation(once, "es", { ...option(once, "c") }, "Jamás");
    // Each keystroke goes on from what stood there: all follow, since all stood alike.
    expect(Object.values(said(apart))).toEqual(["Jamás", "Jamás", "Jamás"]);
    const own = {
      ...once,
      translations: {
        es: { ...once.translations!["es"], [option(once, "b").place]: { text: "En ningún caso", of: "Never" } },
      },
    };
    expect(Object.values(said(withTranslation(own, "es", option(own, "a"), "Jamás")))).toEqual([
      "Jamás",
      "En ningún caso",
      "Jamás",
    ]);
    // A question in the same words is no option.
    expect(said(once)["text:c"]).toBeUndefined();
    expect(withoutLanguage(once, "es").translations).toEqual({});
  });
});

describe("what differs between two versions", () => {
  it("says which band, question or rule of a score changed, and of an alert what", () => {
    const score = question("s", {
      type: "decimal",
      text: "Burden",
      readOnly: true,
      score: {
        method: "sum",
        items: ["a", "b"],
        fewestAnswered: 2,
        proration: "none",
        bands: [{ low: 0, high: 4, label: "low", source: "" }],
      },
    });
    const asked = question("a", {
      type: "integer",
      text: "A",
      alert: { test: { kind: "numbers", low: 3 }, message: "High" },
    });
    const before = made(asked, score);
    const changed = updateItem(before, "s", (item) => {
      const { score: rule } = item as Question;
      return {
        ...item,
        score: {
          ...rule!,
          items: ["a"],
          fewestAnswered: 1,
          bands: [
            { low: 0, high: 6, label: "low", source: "" },
            { low: 7, high: 9, label: "high", source: "" },
          ],
        },
      } as Item;
    });
    const after = updateItem(
      changed,
      "a",
      (i) => ({ ...i, alert: { test: { kind: "unanswered" }, message: "Open" } }) as Item,
    );
    const words = differences(before, after).map((d) => d.words);
    expect(words.join("\n")).toMatch(/one question counts no longer/);
    expect(words.join("\n")).toMatch(/given from 1 answers? on \(before: 2\)/);
    expect(words.join("\n")).toMatch(/band “low” is 0 to 6 \(before: 0 to 4\)/);
    expect(words.join("\n")).toMatch(/new band “high”, 7 to 9/);
    expect(words.join("\n")).toMatch(
      /alert changed: “Open”, where it is left open \(before: “High”, from 3 to the highest\)/,
    );
  });
});

describe("a place to sign", () => {
  const place = (linkId: string, signer?: "client" | "guardian"): Item =>
    ({ ...newLine("signature", linkId), text: "I agree", ...(signer ? { signer } : {}) }) as Item;
  const consent = made(line("a"), place("any"), place("parent", "guardian"), place("self", "client"));
  const before = (questionnaire: Questionnaire, fillers: readonly FillerKind[]): string[] =>
    placesBeforeReturn(signingPlan(questionnaire, noAnswers, undefined), fillers).map((p) => p.place);
  it("is asked only of who it is for: a guardian's of a parent too, one without a name of whoever fills it in", () => {
    expect(signaturePlaces(consent)).toEqual(["any", "parent", "self"]);
    const free = { ...consent, signing: { freeOrder: true as const } };
    expect(before(free, ["client"])).toEqual(["any", "self"]);
    expect(before(free, ["parent"])).toEqual(["any", "parent"]);
    expect(before(free, ["guardian", "client"])).toEqual(["any", "parent", "self"]);
    expect(before(made(place("parent", "guardian")), ["client"])).toEqual([]);
    // One after another: the client's waits for the parent's, who signs once it came back.
    expect(before(consent, ["client"])).toEqual(["any"]);
    expect(before(consent, ["guardian", "client"])).toEqual(["any", "parent", "self"]);
    expect(signersOf(consent)).toEqual(["guardian", "client"]);
    expect([signsAt({}, "partner"), signsAt({ signer: "client" }, "partner")]).toEqual([true, false]);
  });
  it("keeps whose it is through a file, and a file that names nobody known is refused", () => {
    const json = writeQuestionnaire({ ...consent, status: "active" });
    const back = readQuestionnaire(json);
    expect(back.ok && signersOf(back.value)).toEqual(["guardian", "client"]);
    const bad = JSON.parse(JSON.stringify(json).replace('"guardian"', '"neighbour"')) as unknown;
    expect(readQuestionnaire(bad)).toMatchObject({ ok: false });
  });
  it("signs a questionnaire as a whole where it has no places of its own, whoever it is", () => {
    const whole = { ...made(line("a")), signed: true };
    expect(before(whole, ["partner"])).toEqual([""]);
  });
});

describe("Proof knows the practice", () => {
  const intake = fromRepository("adult-intake");
  const codes = (practice?: Parameters<typeof proof>[2]) =>
    new Set(proof(intake, [], practice).findings.map((f) => f.code));
  it("warns of an answer that goes nowhere only where no note layout quotes it", () => {
    const loose = made(line("a", "How are you?"));
    expect(proof(loose, []).findings.map((f) => f.code)).toContain("goes-nowhere");
    expect(proof(loose, [], { quoted: true }).findings.map((f) => f.code)).not.toContain("goes-nowhere");
    expect(codes({ quoted: true }).has("goes-nowhere")).toBe(false);
  });
});

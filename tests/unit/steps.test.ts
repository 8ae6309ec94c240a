import type { FillPart } from "../../src/usecases/filling";
import { describe, expect, it } from "vitest";
import { elementId, isShown, keysIn, placedIn, problemKey, problemsIn, stepsOf } from "../../src/ui/fill/steps";
import { clientWords, problemWords } from "../../src/i18n/client-words";
import {
  allQuestions,
  forClient,
  isQuestion,
  noAnswers,
  sectionsOf,
  shownQuestions,
  type Answers,
  type Placed,
  type Questionnaire,
} from "../../src/core/questionnaire";
import type { Id, Instant } from "../../src/core/shared";
import { whereStopped } from "../../src/ui/fill/use-steps";
import { fromRepository, question } from "../support/questionnaires";

const shownQuestionKeys = (placed: readonly Placed[]): string[] =>
  placed.flatMap((p) => [...(p.shown && isQuestion(p.item) ? [p.key] : []), ...shownQuestionKeys(p.children)]);
const option = (q: Questionnaire, id: string, n: number) =>
  allQuestions(q).find((i) => i.linkId === id)!.options[n]!.value;
const part = (name: Parameters<typeof fromRepository>[0], answers: Answers = noAnswers): FillPart => ({
  id: `${name}-part` as Id<"Part">,
  questionnaire: forClient(fromRepository(name)),
  answers,
  signed: {},
  onPaper: [],
  prefilled: [],
  kept: {},
});
const parts = [part("adult-intake"), part("consent-to-care"), part("phq-9")];

describe("coming back", () => {
  const view = { practiceName: "", logo: null, person: "", onBehalfOf: undefined, parts };
  const steps = stepsOf(parts);
  const stopped = (change: (part: FillPart) => FillPart) => whereStopped(steps, parts.map(change), view);
  const answered = (linkId: string, value: string) => (p: FillPart) =>
    p.questionnaire.items.some((i) => JSON.stringify(i).includes(`"${linkId}"`))
      ? { ...p, answers: { rows: {}, values: { [linkId]: [{ type: "string" as const, value }] } } }
      : p;
  it("begins at the start while nothing was answered, what came from the chart not counted", () => {
    expect(stopped((p) => p)).toBe(0);
    expect(stopped((p) => ({ ...answered("email", "a@b.example")(p), prefilled: ["email"] }))).toBe(0);
  });
  it("goes on where the last answer was given, or after it once that page is complete", () => {
    // The second page, where a phone number is wanted too.
    expect(stopped(answered("email", "a@b.example"))).toBe(1);
    const all = steps.map((step, index) => ({ step, index }));
    for (const { step, index } of all) {
      if (step.kind !== "section") continue;
      const own = parts.find((p) => p.id === step.part)!;
      const asked = placedIn(own.questionnaire, own.answers, step.section).flatMap(function walk(one): Placed[] {
        const { item, shown, children } = one;
        return [...(isQuestion(item) && !item.readOnly && shown ? [one] : []), ...children.flatMap(walk)];
      });
      const first = asked.find((p) => isQuestion(p.item) && p.item.type === "string" && !p.item.options.length);
      if (!first) continue;
      const answers: Answers = { rows: {}, values: { [first.key]: [{ type: "string", value: "Ana" }] } };
      const at = stopped((p) => (p.id === own.id ? { ...p, answers } : p));
      if (problemsIn(own.questionnaire, answers, step.section).length > 0) expect(at, step.section.title).toBe(index);
      else expect(at, step.section.title).toBeGreaterThan(index);
    }
    // Signed: on to what comes after it.
    const sign = steps.findIndex((s) => s.kind === "sign");
    expect(
      stopped((p) =>
        p.id === (steps[sign] as { part: string }).part
          ? { ...p, signed: { [(steps[sign] as { place: string }).place]: "2026-11-25T09:00:00Z" as Instant } }
          : p,
      ),
    ).toBe(sign + 1);
  });
});

describe("the client's steps", () => {
  it("are one section a page, a signature after the consent, and the review last", () => {
    expect(stepsOf(parts).map((s) => (s.kind === "section" ? s.section.title.slice(0, 16) : s.kind))).toEqual(
      [
        "About you",
        "How to reach you",
        "Your health",
        "Your days",
        "What brings you",
        "Consent to care",
        "sign",
        "Over the last 2 w",
        "review",
      ].map((t) => t.slice(0, 16)),
    );
  });
  it("are one question a page in measures, where it is wished: all of them once, each with what is said before it, and none that is not asked", () => {
    const sections = stepsOf(parts, true).flatMap((s) => (s.kind === "section" ? [s.section] : []));
    const phq9 = parts[2]!.questionnaire;
    expect(sections.filter((s) => s.only === undefined)).toHaveLength(6);
    const pages = sections.filter((s) => s.only !== undefined);
    const onPages = pages.map((p) => shownQuestionKeys(placedIn(phq9, noAnswers, p)));
    expect(onPages.every((keys) => keys.length <= 1)).toBe(true);
    expect(onPages.flat()).toEqual(
      shownQuestions(phq9, noAnswers)
        .filter((q) => !q.item.readOnly && !q.item.score)
        .map((q) => q.key),
    );
    // The tenth asks how hard it was, once something was; until then its page is left out.
    expect(isShown(placedIn(phq9, noAnswers, pages[9]!))).toBe(false);
    const some: Answers = { rows: {}, values: { [pages[0]!.only!]: [option(phq9, pages[0]!.only!, 1)] } };
    expect(isShown(placedIn(phq9, some, pages[9]!))).toBe(true);
    expect(pages.map((p) => problemsIn(phq9, some, p).length)).toEqual([0, 1, 1, 1, 1, 1, 1, 1, 1, 0]);
    // Texts before a question stand on its page; a grid stays whole.
    const said = {
      ...phq9,
      items: [
        { type: "display" as const, linkId: "d", text: "Read this." },
        question("a"),
        question("b"),
        {
          type: "group" as const,
          linkId: "g",
          text: "G",
          codes: [],
          required: false,
          repeats: false,
          control: "htable" as const,
          items: [question("c"), question("e")],
        },
      ],
    } as typeof phq9;
    expect(
      stepsOf([{ ...parts[2]!, questionnaire: said }], true).map((s) =>
        s.kind === "section"
          ? placedIn(said, noAnswers, s.section)
              .flatMap((p) => keysIn([p]))
              .join()
          : s.kind,
      ),
    ).toEqual(["d,a", "d,b", "d,g,c,e", "review"]);
  });
  it("know what is missing on their own page and nothing of the others", () => {
    const [intake] = parts;
    const sections = sectionsOf(intake!.questionnaire);
    expect(sections.map((s) => problemsIn(intake!.questionnaire, noAnswers, s).length)).toEqual([3, 3, 4, 0, 1]);
    const yes: Answers = {
      rows: { medicines: ["a"] },
      values: { "has-medicines": [{ type: "boolean", value: true }] },
    };
    expect(problemsIn(intake!.questionnaire, yes, sections[2]!).map((p) => p.key)).toEqual([
      "has-conditions",
      "medicines:a/medicine-name",
      "has-allergies",
      "had-operations",
    ]);
    expect(keysIn(placedIn(intake!.questionnaire, yes, sections[2]!))).toContain("medicines:a/medicine-dose");
  });
  it("are left out while everything on them is hidden", () => {
    const hidden = {
      ...parts[0]!.questionnaire,
      items: [
        question("a", { type: "boolean" }),
        {
          type: "group" as const,
          linkId: "g",
          text: "G",
          codes: [],
          required: false,
          repeats: false,
          items: [question("b")],
          shownWhen: {
            behavior: "all" as const,
            conditions: [{ question: "a", operator: "=" as const, answer: { type: "boolean" as const, value: true } }],
          },
        },
      ],
    };
    const section = sectionsOf(hidden)[1]!;
    expect(isShown(placedIn(hidden, noAnswers, section))).toBe(false);
    expect(isShown(placedIn(hidden, { rows: {}, values: { a: [{ type: "boolean", value: true }] } }, section))).toBe(
      true,
    );
  });
  it("give each question an element that a page can hold", () => {
    expect(elementId("12345678-90", "medicines:a1/medicine-name")).toBe("q-12345678-medicines_a1_medicine-name");
    expect(elementId("12345678-90", 'x"><script>')).toMatch(/^[\w-]+$/);
  });
  it("have words for every reason an answer can be refused for", () => {
    const reasons = [
      "missing",
      "wrong-type",
      "not-an-option",
      "too-long",
      "too-short",
      "too-small",
      "too-large",
      "too-many-decimals",
      "pattern",
      "email",
      "phone",
      "web-address",
      "no-such-date",
      "only-one",
      "exclusive",
      "not-asked",
      "needs-a-row",
    ] as const;
    const said = reasons.map((reason) => problemWords(problemKey({ key: "k", linkId: "k", reason }), "3"));
    expect(new Set(said).size).toBe(reasons.length);
    for (const words of said) expect(words).toMatch(/^[A-Z].*(\.|https:\/\/)$/);
  });
  it("say who it is for and how far along", () => {
    const t = clientWords("fill");
    expect([
      t("step", { at: "3", of: "9" }),
      t("forWhom", { name: "Noor Vance" }),
      t("send", { practice: "Fernhollow" }),
    ]).toEqual(["Step 3 of 9", "You answer for Noor Vance.", "Send to Fernhollow"]);
  });
});

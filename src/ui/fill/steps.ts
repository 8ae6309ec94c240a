import {
  checkAnswers,
  isGrid,
  isQuestion,
  isSignaturePlace,
  place,
  questionSeconds,
  readingSeconds,
  sectionsOf,
  type AnswerProblem,
  type Answers,
  type Item,
  type Placed,
  type Questionnaire,
  type Section,
} from "@/core/questionnaire";
import { signaturePlaces } from "@/core/signing";
import type { Id } from "@/core/shared";
import type { FillPart } from "@/usecases/filling";

/** What stands on one page: a section, or `only` one question of it with what is said before. */
export type OnePage = Section & { readonly only?: string };
export type Step =
  | { readonly kind: "section"; readonly part: Id<"Part">; readonly section: OnePage }
  | { readonly kind: "sign"; readonly part: Id<"Part">; readonly place: string }
  | { readonly kind: "review" };

/**
 * One section a page, or where it is wished one question of a measure; each questionnaire's signatures after its
 * sections, since they cover all of it, and the review last.
 */
export const stepsOf = (parts: readonly FillPart[], oneByOne = false): Step[] => [
  ...parts.flatMap((part): Step[] => [
    ...sectionsOf(part.questionnaire).flatMap((section): Step[] =>
      section.items.every((i) => isSignaturePlace(i) || (isQuestion(i) && i.score !== undefined))
        ? []
        : pagesOf(section, oneByOne && part.questionnaire.kind === "measure").map((page) => ({
            kind: "section",
            part: part.id,
            section: page,
          })),
    ),
    ...signaturePlaces(part.questionnaire).map((place) => ({ kind: "sign", part: part.id, place }) as const),
  ]),
  { kind: "review" },
];

/** Rows of a grid and of a repeating group stay together, and what hangs on a question stays with it. */
const asked = (items: readonly Item[]): string[] =>
  items.flatMap((i) => {
    if (isQuestion(i)) return i.readOnly || i.score ? [] : [i.linkId];
    if (i.type !== "group") return [];
    const { linkId, repeats, items: inner } = i;
    return repeats || isGrid(i) ? [linkId] : asked(inner);
  });
function pagesOf(section: Section, oneByOne: boolean): OnePage[] {
  const ids = oneByOne ? asked(section.items) : [];
  return ids.length < 2 ? [section] : ids.map((only) => ({ ...section, only }));
}

/** The placed items of one page. */
export function placedIn(questionnaire: Questionnaire, answers: Answers, { items, only }: OnePage): Placed[] {
  const ids = new Set(items.map((i) => i.linkId));
  const all = place(questionnaire, answers).filter((p) => ids.has(p.item.linkId));
  return only === undefined ? all : upTo(all, only).placed;
}
/** One question, in its groups, and the texts before it; these only where it is shown. */
function upTo(all: readonly Placed[], only: string): { placed: Placed[]; shown: boolean | undefined } {
  const before: Placed[] = [];
  for (const placed of all) {
    if (placed.item.linkId === only)
      return { placed: placed.shown ? [...before, placed] : [placed], shown: placed.shown };
    if (placed.item.type === "display") {
      if (!isSignaturePlace(placed.item)) before.push(placed);
      continue;
    }
    const inner = isQuestion(placed.item) ? undefined : upTo(placed.children, only);
    if (inner?.shown !== undefined)
      return {
        placed: [...(inner.shown ? before : []), { ...placed, children: inner.placed }],
        shown: inner.shown && placed.shown,
      };
  }
  return { placed: [], shown: undefined };
}
/** Of a packet that was sent back, only what is open again, with what stands around it. */
export const onlyOpen = (placed: readonly Placed[], open: ReadonlySet<string>): Placed[] =>
  placed.flatMap((p): Placed[] => {
    if (open.has(p.key)) return [p];
    const children = onlyOpen(p.children, open);
    return children.length > 0 ? [{ ...p, children }] : [];
  });
/** Whole minutes for what is still to be read, answered and signed from a step on; 0 for next to nothing. */
export function minutesLeft(steps: readonly Step[], at: number, parts: readonly FillPart[]): number {
  const left = (placed: readonly Placed[], part: FillPart): number =>
    placed.reduce((sum, one) => {
      if (!one.shown) return sum;
      const secondsFor = () => {
        if (isQuestion(one.item)) {
          if (one.item.readOnly || (part.answers.values[one.key] ?? []).length > 0) return 0;
          return questionSeconds(one.item);
        }
        if (isSignaturePlace(one.item)) return 0;
        return readingSeconds(one.item);
      };
      const own = secondsFor();
      return sum + own + left(one.children, part);
    }, 0);
  const seconds = steps.slice(at).reduce((sum, step) => {
    const part = step.kind === "review" ? undefined : parts.find((p) => p.id === step.part);
    if (!part) return sum;
    const secondsOf = () => {
      if (step.kind === "section") return left(placedIn(part.questionnaire, part.answers, step.section), part);
      if (step.kind === "sign" && !part.signed[step.place]) return signingSeconds;
      return 0;
    };
    return sum + secondsOf();
  }, 0);
  return Math.round(seconds / 60);
}
const signingSeconds = 15;
export const keysIn = (placed: readonly Placed[]): string[] => placed.flatMap((p) => [p.key, ...keysIn(p.children)]);

/** What keeps this section from being complete, in reading order. */
export function problemsIn(questionnaire: Questionnaire, answers: Answers, section: OnePage): AnswerProblem[] {
  const keys = new Set(keysIn(placedIn(questionnaire, answers, section)));
  return checkAnswers(questionnaire, answers).filter((p) => keys.has(p.key));
}
/** Is there anything on it? A place to sign has a page of its own. */
export const isShown = (placed: readonly Placed[]): boolean =>
  placed.some(
    (p) =>
      p.shown &&
      !isSignaturePlace(p.item) &&
      !(isQuestion(p.item) && p.item.readOnly) &&
      !(p.item.type === "group" && !p.item.repeats && !isShown(p.children)),
  );

/** The page element of a question, for jumping to it. */
export const elementId = (partId: string, key: string): string =>
  `q-${partId.slice(0, 8)}-${key.replace(/[^\w-]/g, "_")}`;

/** What is said above and below it belongs to its description. */
export const aboveId = (element: string): string => `${element}-above`;
export const belowId = (element: string): string => `${element}-below`;
export const describers = (element: string): string => `${aboveId(element)} ${belowId(element)}`;

const reasonKeys = {
  missing: "missing",
  "not-an-option": "notAnOption",
  "too-long": "tooLong",
  "too-short": "tooShort",
  "too-small": "tooSmall",
  "too-large": "tooLarge",
  "too-many-decimals": "decimals",
  pattern: "pattern",
  email: "email",
  phone: "phone",
  "web-address": "webAddress",
  "no-such-date": "noSuchDate",
  "only-one": "onlyOne",
  exclusive: "exclusive",
  "needs-a-row": "needsARow",
  "wrong-type": "wrongKind",
  "not-asked": "notAsked",
} as const;
export type ProblemKey = (typeof reasonKeys)[AnswerProblem["reason"]];
export const problemKey = (problem: AnswerProblem): ProblemKey => reasonKeys[problem.reason];

import {
  allItems,
  checkAnswers,
  isSection,
  linkIdOf,
  shownQuestions,
  type AnswerProblem,
  type Answers,
  type Placed,
} from "@/core/questionnaire";
import { alertsOf } from "@/core/scoring";
import { directionOf } from "@/core/shared";
import { placesBeforeReturn, signingPlan, type FillerKind, type PlannedPlace } from "@/core/signing";
import type { FillPart } from "@/usecases/filling";
import type { Clash } from "./answer-sync";
import type { PacketView } from "./fill-server";
import { isShown, keysIn, onlyOpen, placedIn, problemKey, problemsIn, type ProblemKey, type Step } from "./steps";

/** What there is to see and to do on one page. */
export interface PageLook {
  readonly placed: readonly Placed[];
  readonly problems: readonly AnswerProblem[];
  /** Answers from the chart that wait to be said right. */
  readonly waitingKeys: readonly string[];
  /** Answers beside which the practice's own words stand. */
  readonly alarming: ReadonlySet<string>;
}
const nothing: PageLook = { placed: [], problems: [], waitingKeys: [], alarming: new Set() };

/** The items of a page; of a packet that was sent back, only what is open again. */
function itemsOf(step: Step & { kind: "section" }, part: FillPart, sentBack: PacketView["sentBack"]): Placed[] {
  const all = placedIn(part.questionnaire, part.answers, step.section);
  if (!sentBack) return all;
  return onlyOpen(all, new Set(sentBack.filter((line) => line.partId === part.id).map((line) => line.key)));
}

export function lookThrough(step: Step, part: FillPart | undefined, view: PacketView): PageLook {
  if (step.kind !== "section" || !part) return nothing;
  const placed = itemsOf(step, part, view.sentBack);
  const alerts = view.support ? alertsOf(part.questionnaire, part.answers) : [];
  const { prefilled } = part;
  return {
    placed,
    problems: problemsIn(part.questionnaire, part.answers, step.section),
    waitingKeys:
      prefilled.length === 0 ? [] : keysIn(placed.filter((p) => p.shown)).filter((key) => prefilled.includes(key)),
    alarming: new Set(alerts.map((alert) => alert.key)),
  };
}
const ownKind = ({ signsAs }: PacketView): readonly FillerKind[] | undefined =>
  signsAs === undefined ? undefined : [signsAs];
/** Nothing of it is asked as things stand. */
export function isEmptyStep(step: Step, part: FillPart | undefined, view: PacketView): boolean {
  if (!part) return false;
  if (step.kind === "section") return !isShown(itemsOf(step, part, view.sentBack));
  return step.kind === "sign" && !placesNow(part, view, ownKind(view)).some(({ place }) => place === step.place);
}
/** Where these people sign before it goes back, as things stand. */
const placesNow = (
  { questionnaire, answers }: FillPart,
  view: PacketView,
  fillers: readonly FillerKind[] | undefined,
): readonly PlannedPlace[] => placesBeforeReturn(signingPlan(questionnaire, answers, view.age), fillers);

/** What stands in the way of returning the packet, and on which page. */
export interface OpenPoint {
  readonly part: FillPart;
  /** None where a signature is missing; `step` is -1 where that is another person's. */
  readonly problem: Pick<AnswerProblem, "key" | "linkId"> | undefined;
  readonly step: number;
}
export const openPoints = (
  steps: readonly Step[],
  parts: readonly FillPart[],
  clashes: readonly Clash[],
  view: PacketView,
): readonly OpenPoint[] =>
  parts.flatMap((part): OpenPoint[] => [
    ...clashes
      .filter((clash) => clash.partId === part.id)
      .map(({ key }) => ({
        part,
        problem: { linkId: linkIdOf(key), key },
        step: Math.max(0, stepOfKey(steps, part, key)),
      })),
    ...checkAnswers(part.questionnaire, part.answers).map((problem) => ({
      part,
      problem,
      step: stepOfProblem(steps, part, problem.key, part.answers),
    })),
    ...placesNow(part, view, view.fillers)
      .filter(({ place, required }) => required && !part.signed[place] && !part.onPaper.includes(place))
      .map(({ place }) => ({
        part,
        problem: undefined,
        step: steps.findIndex((s) => s.kind === "sign" && s.part === part.id && s.place === place),
      })),
  ]);
const stepOfProblem = (steps: readonly Step[], part: FillPart, key: string, answers: Answers): number =>
  steps.findIndex(
    (step) =>
      step.kind === "section" &&
      step.part === part.id &&
      problemsIn(part.questionnaire, answers, step.section).some((p) => p.key === key),
  );
/** The page a question stands on; -1 where none holds it. */
export const stepOfKey = (steps: readonly Step[], part: FillPart, key: string): number =>
  steps.findIndex(
    (step) =>
      step.kind === "section" &&
      step.part === part.id &&
      keysIn(placedIn(part.questionnaire, part.answers, step.section)).includes(key),
  );

/** The words of the question a problem is about. */
export const labelOf = ({ questionnaire }: FillPart, { linkId }: Pick<AnswerProblem, "linkId">): string =>
  allItems(questionnaire).find((item) => item.linkId === linkId)?.text ?? linkId;

/** The message for a problem: of a number it says what kind of number. */
export function messageKey(parts: readonly FillPart[], problem: AnswerProblem): ProblemKey | "number" | "wholeNumber" {
  if (problem.reason !== "wrong-type") return problemKey(problem);
  const asked = parts
    .flatMap((part) => shownQuestions(part.questionnaire, part.answers))
    .find((q) => q.key === problem.key);
  if (asked?.item.type === "integer") return "wholeNumber";
  return asked?.item.type === "decimal" || asked?.item.type === "quantity" ? "number" : problemKey(problem);
}

/** A section's own title stands as the page's heading, so its group is not headed again. */
export function sectionItems(placed: readonly Placed[]): readonly Placed[] {
  const only = placed[0];
  return placed.length === 1 && only && isSection(only.item) ? only.children : placed;
}
/** A questionnaire without a translation stands in the language it was written in, on a page in another. */
export const languageOf = ({ questionnaire: { language = "en" } }: FillPart): { lang: string; dir: "ltr" | "rtl" } => ({
  lang: language,
  dir: directionOf(language),
});

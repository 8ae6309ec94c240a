import { assertNever } from "../shared";
import {
  allQuestions,
  combine,
  contribution,
  createVisibility,
  numbersOf,
  sameValue,
  scoreValue,
  shownQuestions,
  weightOf,
  type Answers,
  type AnswerValue,
  type Band,
  type Question,
  type Questionnaire,
  type ScoreRule,
} from "../questionnaire";

/**
 * A computed score. `value` is undefined when fewer items than the rule asks for were answered.
 * Prorated values follow person-mean substitution: sum / answered x items, rounded half up (common practice).
 */
export interface Score {
  readonly linkId: string;
  readonly title: string;
  readonly value: number | undefined;
  readonly prorated: boolean;
  readonly answered: number;
  readonly items: number;
  /** The words of the items that gave no number, in the order of the rule. */
  readonly missing: readonly string[];
  readonly band: Band | undefined;
  /** Lowest and highest value the scored items can give together. */
  readonly range: readonly [number, number];
}

/**
 * Every score the questionnaire defines, for these answers. Hidden questions count as not answered, and so does what
 * stands in a row.
 */
export function scoresOf(questionnaire: Questionnaire, answers: Answers): Score[] {
  if (!allQuestions(questionnaire).some((q) => q.score)) return [];
  const visible = createVisibility(questionnaire, answers);
  const byId = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  return allQuestions(questionnaire).flatMap((scored) => {
    const rule = scored.score;
    if (!rule) return [];
    const questions = rule.items.flatMap((id) => byId.get(id) ?? []);
    const { answered, value, missing } = scoreValue(rule, questions, (q) => visible.values(q, ""));
    return [
      {
        linkId: scored.linkId,
        title: scored.text,
        value,
        answered,
        items: questions.length,
        missing: missing.map((q) => q.text),
        prorated:
          value !== undefined &&
          rule.proration === "person-mean" &&
          rule.method === "sum" &&
          answered < questions.length,
        band: value === undefined ? undefined : rule.bands.find((b) => value >= b.low && value <= b.high),
        range: fullRange(rule, questions),
      },
    ];
  });
}

/** Lowest and highest score of somebody who answers every item. */
export function fullRange(rule: ScoreRule, questions: readonly Question[]): readonly [number, number] {
  const ends = questions.map((q) => {
    const range = numbersOf(q) ?? { low: 0, high: 0 };
    return [contribution(rule, q, range.low), contribution(rule, q, range.high)] as const;
  });
  const at = (pick: (...n: number[]) => number): number =>
    combine(
      { ...rule, fewestAnswered: 0 },
      ends.reduce((sum, e) => sum + pick(...e), 0),
      Math.max(1, questions.length),
      questions.length,
    ) ?? 0;
  return rule.method === "count" ? [0, questions.length * (rule.factor ?? 1)] : [at(Math.min), at(Math.max)];
}

/** "1 of 3 items answered, missing: …": said wherever the score stands. Empty when nothing is missing. */
export function missingWords({ answered, items, missing, prorated }: Score): string {
  if (missing.length === 0) return "";
  const filled = prorated ? ", filled up by the mean of the others" : "";
  return `${answered} of ${items} items answered${filled}; missing: ${missing.map((text) => `“${text}”`).join(", ")}`;
}
/**
 * The score as it stands in a chart or a note: the number, its band, and what is missing. Empty when it cannot be
 * given.
 */
export function scoreText(score: Score): string {
  if (score.value === undefined) return "";
  const missing = missingWords(score);
  return `${score.value}${score.band ? ` (${score.band.label})` : ""}${missing === "" ? "" : `; ${missing}`}`;
}

/** An answer that must be seen before anything else. */
export interface Alert {
  readonly key: string;
  readonly linkId: string;
  readonly question: string;
  /** None where leaving it open, or answers elsewhere, alarm. */
  readonly answer: AnswerValue | undefined;
  readonly message: string;
}
export function alertsOf(questionnaire: Questionnaire, answers: Answers): Alert[] {
  const asked = shownQuestions(questionnaire, answers).filter(({ item }) => item.alert);
  const visible = asked.length === 0 ? undefined : createVisibility(questionnaire, answers);
  const ofItems = asked.flatMap(({ item, key, prefix }): Alert[] => {
    const { test, message } = item.alert!;
    const alert = { key, linkId: item.linkId, question: item.text, message };
    const given = visible!.values(item, prefix);
    switch (test.kind) {
      case "answers":
        return given
          .filter((answer) => test.answers.some((a) => sameValue(a, answer)))
          .map((answer) => ({ ...alert, answer }));
      case "numbers":
        return given
          .filter((answer) => within(weightOf(item, answer), test.low, test.high))
          .map((answer) => ({ ...alert, answer }));
      case "unanswered":
        return given.length === 0 ? [{ ...alert, answer: undefined }] : [];
      case "condition":
        return visible!.meets(test.rule, prefix) ? [{ ...alert, answer: given[0] }] : [];
      default:
        return assertNever(test);
    }
  });
  const ofBands = scoresOf(questionnaire, answers).flatMap(({ linkId, title, value, band }): Alert[] =>
    value === undefined || band?.alert === undefined
      ? []
      : [{ key: linkId, linkId, question: title, answer: { type: "decimal", value }, message: band.alert }],
  );
  return [...ofItems, ...ofBands];
}
const within = (number: number | undefined, low = -Infinity, high = Infinity): boolean =>
  number !== undefined && number >= low && number <= high;

/** What a list says of what came back. */
export interface Gist {
  readonly scores: readonly Score[];
  readonly alerts: readonly Alert[];
}
export const gistOf = (questionnaire: Questionnaire, answers: Answers): Gist => ({
  scores: scoresOf(questionnaire, answers),
  alerts: alertsOf(questionnaire, answers),
});

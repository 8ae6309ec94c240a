import {
  allQuestions,
  combine,
  contribution,
  createVisibility,
  numbersOf,
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
  readonly band: Band | undefined;
  /** Lowest and highest value the scored items can give together. */
  readonly range: readonly [number, number];
}

/** Every score the questionnaire defines, for these answers. Hidden questions count as not answered, and so does what stands in a row. */
export function scoresOf(questionnaire: Questionnaire, answers: Answers): Score[] {
  if (!allQuestions(questionnaire).some((q) => q.score)) return [];
  const visible = createVisibility(questionnaire, answers);
  const byId = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  return allQuestions(questionnaire).flatMap((scored) => {
    const rule = scored.score;
    if (!rule) return [];
    const questions = rule.items.flatMap((id) => byId.get(id) ?? []);
    const { answered, value } = scoreValue(rule, questions, (q) => visible.values(q, ""));
    return [
      {
        linkId: scored.linkId,
        title: scored.text,
        value,
        answered,
        items: questions.length,
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
function fullRange(rule: ScoreRule, questions: readonly Question[]): readonly [number, number] {
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

/** An answer that must be seen before anything else. */
export interface Alert {
  readonly key: string;
  readonly linkId: string;
  readonly question: string;
  readonly answer: AnswerValue;
  readonly message: string;
}
export function alertsOf(questionnaire: Questionnaire, answers: Answers): Alert[] {
  const ofItems = shownQuestions(questionnaire, answers).flatMap(({ item, key }): Alert[] => {
    const rule = item.alert;
    if (!rule) return [];
    return (answers.values[key] ?? []).flatMap((answer) => {
      const weight = answer.type === "boolean" ? Number(answer.value) : weightOf(item, answer);
      return weight !== undefined && weight >= rule.from
        ? [{ key, linkId: item.linkId, question: item.text, answer, message: rule.message }]
        : [];
    });
  });
  const ofBands = scoresOf(questionnaire, answers).flatMap(({ linkId, title, value, band }): Alert[] =>
    value === undefined || band?.alert === undefined
      ? []
      : [{ key: linkId, linkId, question: title, answer: { type: "decimal", value }, message: band.alert }],
  );
  return [...ofItems, ...ofBands];
}

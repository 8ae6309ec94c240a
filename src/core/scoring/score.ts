import {
  allQuestions, createVisibility, keyOf, sameValue, shownQuestions, type Answers, type AnswerValue, type Band, type Question, type Questionnaire, type ScoreRule,
} from '../questionnaire';
import { assertNever } from '../shared';

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

/** The number an answer counts as: its option's ordinal, or the number itself; undefined when it has none. */
function weightOf(question: Question, value: AnswerValue): number | undefined {
  if (value.type === 'integer' || value.type === 'decimal') return value.value;
  if (value.type === 'quantity') return value.value.value;
  return question.options.find((o) => sameValue(o.value, value))?.ordinal;
}

/** The numbers an item can count as, before weights: each option's, or the ends of what may be typed. Undefined when it has none. */
export function numbersOf(question: Question): { readonly low: number; readonly high: number; readonly each: readonly number[] | undefined } | undefined {
  if (question.options.length > 0) {
    const each = question.options.flatMap((o) => o.ordinal ?? (o.value.type === 'integer' || o.value.type === 'decimal' ? [o.value.value] : []));
    return each.length === 0 ? undefined : { low: Math.min(...each), high: Math.max(...each), each };
  }
  if (question.type !== 'integer' && question.type !== 'decimal' && question.type !== 'quantity') return undefined;
  const { minValue: low, maxValue: high } = question;
  return typeof low === 'number' && typeof high === 'number' ? { low, high, each: undefined } : undefined;
}

/** What an item adds to a score, for the number it was answered with. */
export function contribution(rule: ScoreRule, question: Question, number: number): number {
  const range = rule.reversed?.includes(question.linkId) ? numbersOf(question) : undefined;
  return (range ? range.low + range.high - number : number) * (rule.weights?.[question.linkId] ?? 1);
}

/** The score of so many contributions that add up to `sum`; undefined when they are too few. */
export function combine(rule: ScoreRule, sum: number, answered: number, items: number): number | undefined {
  if (answered === 0 || answered < rule.fewestAnswered) return undefined;
  const factor = rule.factor ?? 1;
  switch (rule.method) {
    case 'sum': return (rule.proration === 'person-mean' && answered < items ? Math.floor((sum / answered) * items + 0.5) : sum) * factor;
    case 'mean': return (sum / answered) * factor;
    case 'count': return answered * factor;
    default: return assertNever(rule.method);
  }
}

/** Every score the questionnaire defines, for these answers. Hidden questions count as not answered, and so does what stands in a row. */
export function scoresOf(questionnaire: Questionnaire, answers: Answers): Score[] {
  if (!allQuestions(questionnaire).some((q) => q.score)) return [];
  const shown = createVisibility(questionnaire, answers);
  const byId = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  return allQuestions(questionnaire).flatMap((scored) => {
    const rule = scored.score;
    if (!rule) return [];
    const questions = rule.items.flatMap((id) => byId.get(id) ?? []);
    const given = questions.flatMap((q) => {
      const first = shown(q, '') ? answers.values[keyOf('', q.linkId)]?.[0] : undefined;
      const number = first && weightOf(q, first);
      return number === undefined ? [] : [contribution(rule, q, number)];
    });
    const value = combine(rule, given.reduce((a, b) => a + b, 0), given.length, questions.length);
    return [{
      linkId: scored.linkId, title: scored.text, value, answered: given.length, items: questions.length,
      prorated: value !== undefined && rule.proration === 'person-mean' && rule.method === 'sum' && given.length < questions.length,
      band: value === undefined ? undefined : rule.bands.find((b) => value >= b.low && value <= b.high),
      range: fullRange(rule, questions),
    }];
  });
}

/** Lowest and highest score of somebody who answers every item. */
function fullRange(rule: ScoreRule, questions: readonly Question[]): readonly [number, number] {
  const ends = questions.map((q) => {
    const range = numbersOf(q) ?? { low: 0, high: 0 };
    return [contribution(rule, q, range.low), contribution(rule, q, range.high)] as const;
  });
  const at = (pick: (...n: number[]) => number): number => combine({ ...rule, fewestAnswered: 0 }, ends.reduce((sum, e) => sum + pick(...e), 0), Math.max(1, questions.length), questions.length) ?? 0;
  return rule.method === 'count' ? [0, questions.length * (rule.factor ?? 1)] : [at(Math.min), at(Math.max)];
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
      const weight = answer.type === 'boolean' ? Number(answer.value) : weightOf(item, answer);
      return weight !== undefined && weight >= rule.from
        ? [{ key, linkId: item.linkId, question: item.text, answer, message: rule.message }] : [];
    });
  });
  const ofBands = scoresOf(questionnaire, answers).flatMap(({ linkId, title, value, band }): Alert[] =>
    value === undefined || band?.alert === undefined ? [] : [{ key: linkId, linkId, question: title, answer: { type: 'decimal', value }, message: band.alert }]);
  return [...ofItems, ...ofBands];
}

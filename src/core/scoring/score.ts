import {
  allQuestions, sameValue, shownQuestions, type Answers, type AnswerValue, type Band, type Placed, type Question, type Questionnaire,
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

/** Every score the questionnaire defines, for these answers. Hidden questions count as not answered. */
export function scoresOf(questionnaire: Questionnaire, answers: Answers): Score[] {
  const shown = new Map(shownQuestions(questionnaire, answers).map((p) => [p.item.linkId, p]));
  const byId = new Map(allQuestions(questionnaire).map((q) => [q.linkId, q]));
  return allQuestions(questionnaire).flatMap((scored) => {
    const rule = scored.score;
    if (!rule) return [];
    const questions = rule.items.flatMap((id) => byId.get(id) ?? []);
    const weights = questions.flatMap((q) => weightGiven(shown.get(q.linkId), answers) ?? []);
    const enough = weights.length >= rule.fewestAnswered && weights.length > 0;
    const sum = weights.reduce((a, b) => a + b, 0);
    const prorated = enough && rule.proration === 'person-mean' && weights.length < questions.length && rule.method === 'sum';
    const value = !enough ? undefined : combine(rule.method, sum, weights.length, prorated ? questions.length : weights.length);
    return [{
      linkId: scored.linkId, title: scored.text, value, prorated, answered: weights.length, items: questions.length,
      band: value === undefined ? undefined : rule.bands.find((b) => value >= b.low && value <= b.high),
      range: possibleRange(questions, rule.method),
    }];
  });
}

function combine(method: 'sum' | 'mean' | 'count', sum: number, answered: number, of: number): number {
  switch (method) {
    case 'sum': return of === answered ? sum : Math.round((sum / answered) * of);
    case 'mean': return sum / answered;
    case 'count': return answered;
    default: return assertNever(method);
  }
}

function weightGiven(placed: Placed<Question> | undefined, answers: Answers): number | undefined {
  const first = placed && answers.values[placed.key]?.[0];
  return placed && first ? weightOf(placed.item, first) : undefined;
}

function possibleRange(questions: readonly Question[], method: 'sum' | 'mean' | 'count'): readonly [number, number] {
  if (method === 'count') return [0, questions.length];
  const bounds = questions.map((q): [number, number] => {
    const ordinals = q.options.flatMap((o) => o.ordinal ?? []);
    if (ordinals.length > 0) return [Math.min(...ordinals), Math.max(...ordinals)];
    return [typeof q.minValue === 'number' ? q.minValue : 0, typeof q.maxValue === 'number' ? q.maxValue : 0];
  });
  const [low, high] = bounds.reduce<[number, number]>(([l, h], [a, b]) => [l + a, h + b], [0, 0]);
  return method === 'mean' && questions.length > 0 ? [low / questions.length, high / questions.length] : [low, high];
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
  return shownQuestions(questionnaire, answers).flatMap(({ item, key }) => {
    const rule = item.alert;
    if (!rule) return [];
    return (answers.values[key] ?? []).flatMap((answer) => {
      const weight = answer.type === 'boolean' ? Number(answer.value) : weightOf(item, answer);
      return weight !== undefined && weight >= rule.from
        ? [{ key, linkId: item.linkId, question: item.text, answer, message: rule.message }] : [];
    });
  });
}

import { allItems, isQuestion, type Questionnaire, type QuestionType } from '../questionnaire';

/** Seconds to give one answer once it was read (common practice, from no one source). */
const seconds: Readonly<Record<QuestionType, number>> = {
  boolean: 3, choice: 4, 'open-choice': 5, integer: 5, decimal: 6, quantity: 6, date: 8, time: 6, string: 8, url: 12, text: 30, attachment: 30,
};
const wordsPerMinute = 200;

/** Whole minutes to read everything and to answer `met` of its questions, 1 at least. */
export function minutesFor(questionnaire: Questionnaire, met: number): number {
  const items = allItems(questionnaire);
  const questions = items.filter(isQuestion).filter((q) => !q.readOnly && !q.score);
  const words = items.reduce((n, i) => n + i.text.split(/\s+/).length + (isQuestion(i) ? (i.help ?? '').split(/\s+/).length - 1 : 0), 0);
  const answering = questions.reduce((n, q) => n + seconds[q.type], 0);
  const share = questions.length === 0 ? 0 : met / questions.length;
  return Math.max(1, Math.round(share * (answering / 60 + words / wordsPerMinute) + (questionnaire.signed ? 0.25 : 0)));
}

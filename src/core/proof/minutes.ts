import { allItems, isQuestion, questionSeconds, readingSeconds, type Questionnaire } from "../questionnaire";

/** Whole minutes to read everything and to answer `met` of its questions, 1 at least. */
export function minutesFor(questionnaire: Questionnaire, met: number): number {
  const items = allItems(questionnaire);
  const questions = items.filter(isQuestion).filter((q) => !q.readOnly && !q.score);
  const reading = items
    .filter((i) => !isQuestion(i) || i.readOnly || i.score)
    .reduce((n, i) => n + readingSeconds(i), 0);
  const share = questions.length === 0 ? 0 : met / questions.length;
  return Math.max(
    1,
    Math.round(
      (share * (questions.reduce((n, q) => n + questionSeconds(q), 0) + reading)) / 60 +
        (questionnaire.signed ? 0.25 : 0),
    ),
  );
}

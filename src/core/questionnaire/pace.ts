import type { Item, Question, QuestionType } from "./definition";

/** Seconds to give one answer once it was read (common practice, from no one source). */
const answering: Readonly<Record<QuestionType, number>> = {
  boolean: 3,
  choice: 4,
  "open-choice": 5,
  integer: 5,
  decimal: 6,
  quantity: 6,
  date: 8,
  time: 6,
  string: 8,
  url: 12,
  text: 30,
  attachment: 30,
};
const wordsPerMinute = 200;
const wordsIn = (text: string): number => text.split(/\s+/).filter(Boolean).length;

/** Seconds to read a text of ours. */
export const readingSeconds = (item: Pick<Item, "text"> & { readonly help?: string }): number =>
  ((wordsIn(item.text) + wordsIn(item.help ?? "")) / wordsPerMinute) * 60;
/** Seconds to read a question and to answer it. */
export const questionSeconds = (question: Question): number => answering[question.type] + readingSeconds(question);

import {
  isGroup,
  isQuestion,
  place,
  plainWords,
  textOf,
  type Answers,
  type AnswerWords,
  type Placed,
  type Questionnaire,
} from "../questionnaire";
import { scoresOf, scoreText } from "../scoring";
import type { NoteLayout, NotePick } from "./layout";

/** The client's own words, with where they came from. Never edited in a note; taken out whole or left. */
export interface QuotedAnswer {
  readonly kind: "quoted";
  readonly partId: string;
  readonly key: string;
  readonly questionnaire: string;
  readonly section: string;
  readonly question: string;
  /** Empty when the question was left unanswered and the layout takes all. */
  readonly answer: string;
  /** Files among the answers, by the names they have in `answer`. */
  readonly files?: readonly { readonly id: string; readonly title: string }[];
}
/** What the practitioner writes. */
export interface OwnWords {
  readonly kind: "own";
  readonly id: string;
  readonly heading: string;
  readonly prompt: string;
  readonly text: string;
}
export type NoteBlock = QuotedAnswer | OwnWords;

export interface ReturnedPart {
  readonly partId: string;
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
}

/** Every shown question of a return as a line that can be quoted, in reading order. */
export function quotable(part: ReturnedPart, words: AnswerWords = plainWords): QuotedAnswer[] {
  const { questionnaire, answers, partId } = part;
  const scores = new Map(scoresOf(questionnaire, answers).map((s) => [s.linkId, s]));
  const out: QuotedAnswer[] = [];
  const visit = (placed: Placed, section: string): void => {
    if (!placed.shown) return;
    const { item, key } = placed;
    if (isQuestion(item)) {
      const score = scores.get(item.linkId);
      const answerOf = () => {
        if (item.score) {
          return score ? scoreText(score) : "";
        }
        return (answers.values[key] ?? []).map((v) => textOf(v, words)).join(", ");
      };
      const answer = answerOf();
      const files = (answers.values[key] ?? []).flatMap((v) =>
        v.type === "attachment" ? [{ id: v.value.id, title: v.value.title }] : [],
      );
      out.push({
        kind: "quoted",
        partId,
        key,
        questionnaire: questionnaire.title,
        section,
        question: item.text,
        answer,
        ...(files.length > 0 ? { files } : {}),
      });
    }
    const inner = isGroup(item) && item.text !== "" ? item.text : section;
    placed.children.forEach((child) => visit(child, inner));
  };
  place(questionnaire, answers).forEach((p) => visit(p, questionnaire.title));
  return out;
}

const picks = (pick: NotePick, line: QuotedAnswer): boolean => {
  switch (pick.kind) {
    case "all":
      return true;
    case "answered":
      return line.answer !== "";
    case "chosen":
      return pick.keys.includes(`${line.partId} ${line.key}`);
  }
};

/**
 * A note's first draft: the layout's headings, empty, with the picked answers quoted at the layout's place for them.
 */
export function draftNote(
  layout: NoteLayout,
  parts: readonly ReturnedPart[],
  pick: NotePick,
  words: AnswerWords = plainWords,
): NoteBlock[] {
  const quotes = parts.flatMap((part) => quotable(part, words)).filter((line) => picks(pick, line));
  const own = layout.headings.map((h): OwnWords => ({ kind: "own", ...h, text: "" }));
  return [...own.slice(0, layout.quotesAt), ...quotes, ...own.slice(layout.quotesAt)];
}

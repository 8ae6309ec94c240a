import {
  answerText,
  isQuestion,
  isSignaturePlace,
  place,
  type Answers,
  type AnswerWords,
  type Placed,
  type Questionnaire,
} from "../questionnaire";

/** A piece of what was read and answered, as it stands on the paper. */
export type ReadBlock =
  | { readonly kind: "heading" | "text"; readonly text: string }
  | { readonly kind: "answer"; readonly question: string; readonly answer: string }
  /** A signature place, with what is agreed to there. */
  | { readonly kind: "place"; readonly place: string; readonly text: string };

/** Everything somebody read and answered, in reading order; signature places where they stand. @param words its language's */
export function readingOrder(questionnaire: Questionnaire, answers: Answers, words: AnswerWords): ReadBlock[] {
  const out: ReadBlock[] = [];
  const visit = ({ item, key, shown, children, row }: Placed): void => {
    if (!shown) return;
    if (item.type === "display") {
      out.push(
        isSignaturePlace(item)
          ? { kind: "place", place: item.linkId, text: item.text }
          : { kind: "text", text: item.text },
      );
    } else if (isQuestion(item)) {
      if (item.score) return;
      const said = (answers.values[key] ?? []).map((value) => answerText(item, value, words)).join(", ");
      out.push({ kind: "answer", question: item.text, answer: said });
      if (item.terms) out.push({ kind: "text", text: item.terms });
    } else if (row === undefined) out.push({ kind: "heading", text: item.text });
    children.forEach(visit);
  };
  place(questionnaire, answers).forEach(visit);
  return out;
}

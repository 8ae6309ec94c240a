import { isQuestion, place, textOf, type Answers, type Placed, type Questionnaire } from "../questionnaire";

/** What is written into one field of the PDF. Options go by the words they have in it. */
export type SheetValue =
  | { readonly field: string; readonly kind: "text"; readonly text: string }
  | { readonly field: string; readonly kind: "check"; readonly on: boolean }
  | { readonly field: string; readonly kind: "options"; readonly options: readonly string[] };

/** Whether a PDF's own fonts have all of a text's letters: those of Western Europe, and nothing that joins or stacks. */
export const isDrawn = (text: string): boolean =>
  /^[\n\u0020-\u007e\u00a0-\u00ff\u2018-\u201e\u2013\u2014\u2026\u20ac]*$/.test(text);

/** A client's answers as values of the PDF's fields. What was hidden or left open stays as it is in the PDF. */
export function sheetValues(questionnaire: Questionnaire, answers: Answers): SheetValue[] {
  const out: SheetValue[] = [];
  const visit = ({ item, key, shown, children }: Placed): void => {
    if (!shown) return;
    if (isQuestion(item) && item.sheetField !== undefined) {
      const values = answers.values[key] ?? [];
      const field = item.sheetField;
      const first = values[0];
      if (first?.type === "boolean") out.push({ field, kind: "check", on: first.value });
      else if (item.options.length > 0 && first)
        out.push({
          field,
          kind: "options",
          options: values.map((v) => (v.type === "coding" ? (v.value.code ?? textOf(v)) : textOf(v))),
        });
      else if (first) out.push({ field, kind: "text", text: values.map((v) => textOf(v)).join(", ") });
    }
    children.forEach(visit);
  };
  place(questionnaire, answers).forEach(visit);
  return out;
}

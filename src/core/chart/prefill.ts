import {
  checkAnswer,
  isGroup,
  isQuestion,
  keyOf,
  rowPrefix,
  sameValue,
  textOf,
  type AnswerChange,
  type AnswerValue,
  type Item,
  type Question,
  type Questionnaire,
} from "../questionnaire";
import { fieldByKey, type ChartField } from "./fields";
import { rowsOn, valueOn, type Chart } from "./fold";
import { sharedIn } from "./posting-plan";

/** What a chart field holds, as an answer to this question; undefined where it would be none. */
function asAnswers(question: Question, held: string): AnswerValue[] | undefined {
  const single = (text: string): AnswerValue | undefined => {
    const option = question.options.find((o) => textOf(o.value) === text);
    if (option) return option.value;
    if (question.options.length > 0 && question.type !== "open-choice") return undefined;
    const number = Number(text);
    switch (question.type) {
      case "boolean":
        return text === "Yes" || text === "No" ? { type: "boolean", value: text === "Yes" } : undefined;
      case "integer":
        return text.trim() !== "" && Number.isInteger(number) ? { type: "integer", value: number } : undefined;
      case "decimal":
        return text.trim() !== "" && Number.isFinite(number) ? { type: "decimal", value: number } : undefined;
      case "date":
      case "time":
        return { type: question.type, value: text };
      case "url":
        return { type: "uri", value: text };
      case "string":
      case "text":
      case "open-choice":
        return { type: "string", value: text };
      case "choice":
      case "quantity":
      case "attachment":
        return undefined;
    }
  };
  // The chart joins several answers by "; ".
  const texts = question.repeats ? held.split("; ") : [held];
  const values = texts.map(single);
  if (!values.every((v): v is AnswerValue => v !== undefined)) return undefined;
  const different = values.filter((v, i) => !values.some((other, j) => j < i && sameValue(other, v)));
  return different.length > 0 && checkAnswer(question, question.linkId, different).length === 0 ? different : undefined;
}

/**
 * A questionnaire begun with what is on file: for each question with a posting line, what its chart field holds; for a
 * repeating group, the rows that stand. What does not fit its question as an answer is left out, and so is everything
 * within other groups that repeat; so is a narrative that several answers go to. Row ids are `p1`, `p2`…
 */
export function prefillFrom(questionnaire: Questionnaire, chart: Chart, fields: readonly ChartField[]): AnswerChange[] {
  const out: AnswerChange[] = [];
  const shared = sharedIn(questionnaire, fields);
  const visit = (item: Item): void => {
    if (item.type === "display") return;
    const field = item.posting && fieldByKey(item.posting.field, fields);
    // A narrative that several answers share is none of their answers.
    if (field && shared.has(field.key)) return;
    if (isGroup(item) && item.repeats) {
      if (field?.kind === "rows") rowsOf(item.linkId, item.items, field.key);
      return;
    }
    if (isQuestion(item) && field && field.kind !== "rows" && !item.readOnly) {
      const held = valueOn(chart, field.key);
      const values = held ? asAnswers(item, held) : undefined;
      if (values) out.push({ kind: "values", key: keyOf("", item.linkId), values });
    }
    item.items.forEach(visit);
  };
  const rowsOf = (linkId: string, columns: readonly Item[], field: string): void => {
    const key = keyOf("", linkId);
    const rows = rowsOn(chart, field);
    if (rows.length === 0) return;
    out.push({ kind: "rows", key, rows: rows.map((_, i) => `p${i + 1}`) });
    rows.forEach(({ value }, i) =>
      columns.forEach((c) => {
        if (!isQuestion(c) || !c.posting) return;
        const held = value.value[c.posting.field];
        const values = held ? asAnswers(c, held) : undefined;
        if (values) out.push({ kind: "values", key: keyOf(rowPrefix(key, `p${i + 1}`), c.linkId), values });
      }),
    );
  };
  questionnaire.items.forEach(visit);
  return out;
}

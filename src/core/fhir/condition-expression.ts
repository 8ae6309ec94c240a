import type { Condition, ShownWhen } from "../questionnaire";
import { quoted } from "./score-expression";

/**
 * "Shown when" as FHIRPath over the response, with the meaning of FHIR R4's enableWhen: for SDC extensions that take an
 * expression.
 */
export const shownWhenExpression = (rule: ShownWhen): string =>
  rule.conditions.map((c) => `(${conditionExpression(c)})`).join(rule.behavior === "all" ? " and " : " or ");

function conditionExpression({ question, operator, answer }: Condition): string {
  const values = `%resource.descendants().where(linkId = ${quoted(question)}).answer.value`;
  if (operator === "exists") return `${values}.exists()${answer.type === "boolean" && answer.value ? "" : ".not()"}`;
  if (answer.type === "coding") {
    const { system, code, display } = answer.value;
    const same =
      code === undefined
        ? `display = ${quoted(display ?? "")}`
        : `code = ${quoted(code)}${system === undefined ? "" : ` and system = ${quoted(system)}`}`;
    return `${values}.where(${operator === "=" ? same : `(${same}).not()`}).exists()`;
  }
  const plainOf = () => {
    if (answer.type === "quantity") return String(answer.value.value);
    if (answer.type === "attachment") return "''";
    if (answer.type === "date") return `@${answer.value}`;
    if (answer.type === "time") return `@T${answer.value}`;
    if (typeof answer.value === "string") return quoted(answer.value);
    return String(answer.value);
  };
  const plain = plainOf();
  return `${values}.where($this${answer.type === "quantity" ? ".value" : ""} ${operator} ${plain}).exists()`;
}

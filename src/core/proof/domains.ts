import { checkAnswer, conditionMet, type AnswerValue, type Condition, type Question } from "../questionnaire";

/** Several-of questions with more options in conditions than this are looked at option by option, not set by set. */
const mostSets = 6;

export interface Domain {
  readonly answers: readonly (readonly AnswerValue[])[];
  /** For each of the answers, those it stands for: all options, or the ends of a stretch of numbers. */
  readonly alike: readonly (readonly (readonly AnswerValue[])[])[];
  readonly exact: boolean;
}
/**
 * A few answers that stand for all: whatever a client answers, one of these makes the same conditions true and false.
 * The first is always "not answered". `exact` is false where there were too many sets of options to tell apart.
 * @param also answers that matter for another reason, and `apart` what sets two answers apart besides the conditions.
 */
export function representatives(
  question: Question,
  conditions: readonly Condition[],
  also: readonly AnswerValue[] = [],
  apart: (answers: readonly AnswerValue[]) => string = () => "",
): Domain {
  const mentioned = [...conditions.filter((c) => c.operator !== "exists").map((c) => c.answer), ...also];
  const { values, exact } =
    question.repeats && question.options.length > 0
      ? setsOf(question, mentioned)
      : { values: singles(question, mentioned).map((v) => [v]), exact: true };
  const possible = values.filter((v) => checkAnswer(question, question.linkId, v).length === 0);
  // Answers that no condition tells apart are one.
  const different = new Map<string, (readonly AnswerValue[])[]>();
  for (const value of possible) {
    const effect = `${conditions.map((c) => Number(conditionMet(c, value))).join("")} ${apart(value)}`;
    different.set(effect, [...(different.get(effect) ?? []), value]);
  }
  const alike = [[[]], ...different.values()];
  return { answers: alike.map((list) => list[0]!), alike, exact };
}

function singles(question: Question, mentioned: readonly AnswerValue[]): AnswerValue[] {
  const { minValue: min, maxValue: max } = question;
  const bounds = [min, max];
  if (question.options.length > 0)
    return [
      ...question.options.map((o) => o.value),
      ...(question.type === "open-choice"
        ? [{ type: "string" as const, value: "Something else" }, ...mentioned.filter((m) => m.type === "string")]
        : []),
    ];
  switch (question.type) {
    case "boolean":
      return [
        { type: "boolean", value: true },
        { type: "boolean", value: false },
      ];
    case "integer":
    case "decimal":
    case "quantity": {
      const given = [
        ...mentioned.flatMap((m) => {
          if (m.type === "integer" || m.type === "decimal") return [m.value];
          if (m.type === "quantity") return [m.value.value];
          return [];
        }),
        ...bounds.flatMap((b) => (typeof b === "number" ? [b] : [])),
      ];
      const cuts = [...new Set(given)].sort((a, b) => a - b);
      const points =
        cuts.length === 0
          ? [0]
          : [cuts[0]! - 1, ...cuts.flatMap((c, i) => [c, i + 1 < cuts.length ? (c + cuts[i + 1]!) / 2 : c + 1])];
      const numbers =
        question.type === "integer"
          ? points.flatMap((p) => [Math.floor(p), Math.ceil(p), Math.floor(p) + 1, Math.ceil(p) - 1])
          : points;
      const unit = mentioned.find((m) => m.type === "quantity")?.value;
      return [...new Set(numbers)].map((value): AnswerValue =>
        question.type === "quantity"
          ? {
              type: "quantity",
              value: { value, ...(typeof unit === "object" && "unit" in unit && unit.unit ? { unit: unit.unit } : {}) },
            }
          : { type: question.type === "integer" ? "integer" : "decimal", value },
      );
    }
    case "date": {
      const days = [
        ...mentioned.flatMap((m) => (m.type === "date" ? [m.value] : [])),
        ...bounds.flatMap((b) => (typeof b === "string" ? [b] : [])),
      ];
      return (days.length === 0 ? ["2000-01-01"] : days.flatMap((d) => [d, dayBeside(d, -1), dayBeside(d, 1)])).map(
        (value) => ({ type: "date", value }),
      );
    }
    case "time": {
      const times = mentioned.flatMap((m) => (m.type === "time" ? [m.value] : []));
      return ["00:00", "23:59", ...times, ...times.flatMap((t) => [minuteBeside(t, -1), minuteBeside(t, 1)])].map(
        (value) => ({ type: "time", value }),
      );
    }
    case "attachment":
      return [{ type: "attachment", value: { id: "", title: "A file", contentType: "application/pdf", size: 1 } }];
    case "url":
      return [{ type: "uri", value: "https://example.org" }];
    case "string":
    case "text":
    case "choice":
    case "open-choice": {
      const words = mentioned.flatMap((m) => (m.type === "string" ? [m.value] : []));
      const plainOf = () => {
        if (question.keyboard === "email") return "a@example.org";
        if (question.keyboard === "phone") return "020 7946 0000";
        return "Something else";
      };
      const plain = plainOf();
      return [plain, ...words, ...words.map((w) => `${w}x`)].map((value) => ({ type: "string", value }));
    }
  }
}

function setsOf(question: Question, mentioned: readonly AnswerValue[]): { values: AnswerValue[][]; exact: boolean } {
  const all = question.options.map((o) => o.value);
  const isMentioned = (v: AnswerValue): boolean =>
    mentioned.some((m) => conditionMet({ question: "", operator: "=", answer: m }, [v]));
  const told = all.filter(isMentioned);
  const other = all.filter((v) => !isMentioned(v));
  // An exclusive option nobody asks about and a plain one are both wanted as "something else".
  const others = [[], ...other.map((v) => [v])];
  if (told.length > mostSets)
    return {
      values: [...all.map((v) => [v]), all.filter((v) => !question.options.some((o) => o.exclusive && o.value === v))],
      exact: false,
    };
  const sets = Array.from({ length: 2 ** told.length }, (_, bits) => told.filter((_v, i) => (bits >> i) & 1));
  return { values: sets.flatMap((s) => others.map((o) => [...s, ...o])).filter((s) => s.length > 0), exact: true };
}

function dayBeside(day: string, by: number): string {
  const at = Date.parse(`${day}T12:00:00Z`);
  return Number.isNaN(at) ? day : new Date(at + by * 86_400_000).toISOString().slice(0, 10);
}
function minuteBeside(time: string, by: number): string {
  const [hours = 0, amount = 0] = time.split(":").map(Number);
  const minutes = Math.max(0, Math.min(24 * 60 - 1, hours * 60 + amount + by));
  return `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
}

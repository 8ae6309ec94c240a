import { isQuestion, type Group, type Question, type Questionnaire } from "./definition";
import { sameValue, type AnswerValue } from "./answer-value";
import { offeredIn, place, type Placed } from "./shown-when";
import type { Answers } from "./answers";
import { isEmail, isPhone } from "./contact-formats";
import { fitsPattern } from "./pattern";
import { assertNever, plainDigits } from "../shared";

/** Why an answer cannot be returned as it stands. `limit` is the number, date or format the reason speaks of. */
export interface AnswerProblem {
  readonly key: string;
  readonly linkId: string;
  readonly reason:
    | "missing"
    | "wrong-type"
    | "not-an-option"
    | "too-long"
    | "too-short"
    | "too-small"
    | "too-large"
    | "too-many-decimals"
    | "pattern"
    | "email"
    | "phone"
    | "web-address"
    | "no-such-date"
    | "only-one"
    | "exclusive"
    | "not-asked"
    | "needs-a-row";
  readonly limit?: string;
}

const valueTypeOf: Record<Question["type"], readonly AnswerValue["type"][]> = {
  boolean: ["boolean"],
  decimal: ["decimal", "integer"],
  integer: ["integer"],
  date: ["date"],
  time: ["time"],
  string: ["string"],
  text: ["string"],
  url: ["uri"],
  choice: ["coding", "string", "integer", "date", "time"],
  "open-choice": ["coding", "string", "integer", "date", "time"],
  quantity: ["quantity"],
  attachment: ["attachment"],
};

/** Longest text any question takes, whatever it says itself. */
export const longestText = 20_000;

/**
 * Checks one question's answers, leaving out whether it is required. Used on every save, so that nothing malformed is
 * stored.
 */
export function checkAnswer(question: Question, key: string, values: readonly AnswerValue[]): AnswerProblem[] {
  const problem = (reason: AnswerProblem["reason"], limit?: string | number): AnswerProblem => ({
    key,
    linkId: question.linkId,
    reason,
    ...(limit === undefined ? {} : { limit: String(limit) }),
  });
  if (values.length > 1 && !question.repeats) return [problem("only-one")];
  const chosenExclusive = question.options.some((o) => o.exclusive && values.some((v) => sameValue(v, o.value)));
  if (chosenExclusive && values.length > 1) return [problem("exclusive")];
  return values.flatMap((value) => {
    const found = checkValue(question, value);
    return found ? [problem(found[0], found[1])] : [];
  });
}

type Found = readonly [AnswerProblem["reason"], (string | number)?] | undefined;

function checkValue(question: Question, value: AnswerValue): Found {
  if (!valueTypeOf[question.type].includes(value.type)) return ["wrong-type"];
  if (question.options.length > 0) {
    if (question.options.some((o) => sameValue(o.value, value))) return undefined;
    if (question.type !== "open-choice" || value.type !== "string") return ["not-an-option"];
  }
  switch (value.type) {
    case "boolean":
    case "coding":
    case "attachment":
      return undefined;
    case "integer":
      if (!Number.isSafeInteger(value.value)) return ["wrong-type"];
      return isStop(question, value.value) ? checkRange(question, value.value) : ["not-an-option"];
    case "decimal":
      return checkNumber(question, value.value);
    case "quantity":
      return checkNumber(question, value.value.value);
    case "date":
      return isDate(value.value) ? checkRange(question, value.value) : ["no-such-date"];
    case "time":
      return /^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d)?$/.test(value.value)
        ? checkRange(question, value.value)
        : ["wrong-type"];
    case "string":
      return checkText(question, value.value);
    case "uri":
      return /^https?:\/\/[^\s/]+\.[^\s]+$/i.test(value.value) ? checkText(question, value.value) : ["web-address"];
    default:
      return assertNever(value);
  }
}

/** A scale is answered at its stops only. */
const isStop = ({ step, minValue: low }: Question, value: number): boolean =>
  step === undefined || step <= 0 || typeof low !== "number" || (value - low) % step === 0;

function checkNumber(question: Question, value: number): Found {
  if (!Number.isFinite(value)) return ["wrong-type"];
  const places = question.maxDecimalPlaces;
  if (places !== undefined && Math.abs(value * 10 ** places - Math.round(value * 10 ** places)) > 1e-6)
    return ["too-many-decimals", places];
  return checkRange(question, value);
}

function checkRange(question: Question, value: number | string): Found {
  const { minValue: min, maxValue: max } = question;
  if (min !== undefined && typeof min === typeof value && value < min) return ["too-small", min];
  if (max !== undefined && typeof max === typeof value && value > max) return ["too-large", max];
  return undefined;
}

function checkText(question: Question, text: string): Found {
  const most = Math.min(question.maxLength ?? longestText, longestText);
  if (text.length > most) return ["too-long", most];
  if (question.minLength !== undefined && text.length < question.minLength) return ["too-short", question.minLength];
  if (question.keyboard === "email" && !isEmail(text)) return ["email"];
  if (question.keyboard === "phone" && !isPhone(text)) return ["phone"];
  if (question.pattern !== undefined && !fitsPattern(question.pattern, plainDigits(text)))
    return ["pattern", question.entryFormat ?? ""];
  return undefined;
}

/** A day that exists in the calendar, years 1800-2200. */
export function isDate(text: string): boolean {
  const message = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!message) return false;
  const [year, month, day] = [Number(message[1]), Number(message[2]), Number(message[3])];
  if (year < 1800 || year > 2200 || month < 1 || month > 12 || day < 1) return false;
  const leap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
  const daysIn = () => {
    if (month === 2) return leap ? 29 : 28;
    if ([4, 6, 9, 11].includes(month)) return 30;
    return 31;
  };
  return day <= daysIn();
}

/**
 * Everything that stands between these answers and a return: required questions that are shown and unanswered, and
 * answers that do not fit. The browser and the server call this same function; answers to hidden questions are not
 * looked at.
 */
export function checkAnswers(questionnaire: Questionnaire, answers: Answers): AnswerProblem[] {
  const problems: AnswerProblem[] = [];
  const visit = (placed: Placed): void => {
    if (!placed.shown) return;
    const { item, key } = placed;
    if (isQuestion(item) && !item.readOnly) {
      const values = offeredIn(answers.values[key] ?? [], placed.withheld);
      if (values.every(isBlank)) {
        if (item.required) problems.push({ key, linkId: item.linkId, reason: "missing" });
      } else problems.push(...checkAnswer(item, key, values));
    }
    if (item.type === "group" && placed.row === undefined) checkRows(item, placed, problems);
    placed.children.forEach(visit);
  };
  place(questionnaire, answers).forEach(visit);
  return problems;
}

function checkRows(group: Group, placed: Placed, problems: AnswerProblem[]): void {
  if (group.repeats && group.required && placed.children.length === 0)
    problems.push({ key: placed.key, linkId: group.linkId, reason: "needs-a-row" });
}

const isBlank = (value: AnswerValue): boolean =>
  (value.type === "string" || value.type === "uri" || value.type === "date" || value.type === "time") &&
  value.value.trim() === "";

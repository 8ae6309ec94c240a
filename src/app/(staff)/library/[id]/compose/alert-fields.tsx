"use client";
import {
  numbersOf,
  sameValue,
  textOf,
  type AlertRule,
  type AlertTest,
  type AnswerValue,
  type Question,
} from "@/core/questionnaire";
import { CheckboxGroup } from "@/ui/kit/choice-fields";
import { Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { TextField } from "@/ui/kit/text-field";
import { Cols, NumberField, set, type QuestionFieldsProps } from "./question-fields";
import { conditionOn, ShownWhenEditor } from "./shown-when-editor";

const yesNo: readonly AnswerValue[] = [
  { type: "boolean", value: true },
  { type: "boolean", value: false },
];
/** Answers of a question that can be named one by one. */
const nameable = (question: Question): readonly AnswerValue[] =>
  question.type === "boolean" ? yesNo : question.options.map((o) => o.value);
const isNumeric = (question: Question): boolean =>
  numbersOf(question) !== undefined || ["integer", "decimal", "quantity"].includes(question.type);

const kindLabels: Readonly<Record<AlertTest["kind"], string>> = {
  answers: "when one of these is answered",
  numbers: "when the number is",
  unanswered: "when it is left open",
  condition: "when answers are like this",
};
function kindsFor(question: Question): readonly AlertTest["kind"][] {
  return [
    ...(nameable(question).length > 0 ? (["answers"] as const) : []),
    ...(isNumeric(question) ? (["numbers"] as const) : []),
    "unanswered",
    "condition",
  ];
}
function freshTest(kind: AlertTest["kind"], question: Question): AlertTest {
  switch (kind) {
    case "answers":
      return { kind, answers: question.type === "boolean" ? [yesNo[0]!] : [] };
    case "numbers":
      return { kind, low: numbersOf(question)?.high ?? 1 };
    case "unanswered":
      return { kind };
    case "condition":
      return { kind, rule: { behavior: "all", conditions: [conditionOn(question)] } };
  }
}

export interface AlertFieldsProps extends QuestionFieldsProps {
  /** Questions before it, in reading order. */
  readonly earlier: readonly Question[];
}
/** What alarms, and the words that stand in Returns then. */
export function AlertFields({ question, earlier, onChange }: AlertFieldsProps) {
  const { linkId, alert } = question;
  const kinds = kindsFor(question);
  const say = (message: string): void =>
    onChange(
      set("alert", (now): AlertRule | undefined =>
        message === "" ? undefined : { test: now.alert?.test ?? freshTest(kinds[0]!, question), message },
      ),
      `alert ${linkId}`,
    );
  const put = (change: (test: AlertTest) => AlertTest, mark?: string): void =>
    onChange(
      set("alert", (now) => now.alert && { ...now.alert, test: change(now.alert.test) }),
      mark,
    );
  const test = alert?.test;
  return (
    <Stack $gap="0.6rem" role="group" aria-label="Alert">
      <Cols>
        <TextField
          label="Alert: words for Returns"
          value={alert?.message ?? ""}
          help="Left empty, it raises no alert."
          onChange={say}
        />
        {test && (
          <Pick
            small
            label="It alarms"
            value={test.kind}
            options={kinds.map((kind) => ({ value: kind, label: kindLabels[kind] }))}
            onChange={(kind) => put(() => freshTest(kind as AlertTest["kind"], question))}
          />
        )}
        {test?.kind === "numbers" && (
          <>
            <NumberField
              key={`low ${linkId}`}
              label="From"
              value={test.low}
              onChange={(low) => put((was) => bounds(was, "low", low), `alert low ${linkId}`)}
            />
            <NumberField
              key={`high ${linkId}`}
              label="Up to"
              value={test.high}
              onChange={(high) => put((was) => bounds(was, "high", high), `alert high ${linkId}`)}
            />
          </>
        )}
      </Cols>
      {test?.kind === "answers" && (
        <CheckboxGroup
          label="Alarming answers"
          options={nameable(question).map((value, index) => ({ value: String(index), label: textOf(value) }))}
          value={nameable(question).flatMap((value, index) =>
            test.answers.some((a) => sameValue(a, value)) ? [String(index)] : [],
          )}
          onChange={(chosen) =>
            put(() => ({
              kind: "answers",
              answers: nameable(question).filter((_, index) => chosen.includes(String(index))),
            }))
          }
        />
      )}
      {test?.kind === "condition" && (
        <ShownWhenEditor
          purpose="alert"
          of=" of the alert"
          rule={test.rule}
          earlier={[...earlier, question]}
          sentence={undefined}
          onChange={(change) =>
            put((was) =>
              was.kind === "condition"
                ? { kind: "condition", rule: change(was.rule) ?? { behavior: "all", conditions: [] } }
                : was,
            )
          }
        />
      )}
    </Stack>
  );
}
function bounds(was: AlertTest, end: "low" | "high", value: number | undefined): AlertTest {
  if (was.kind !== "numbers") return was;
  const { [end]: _, ...rest } = was;
  return value === undefined ? rest : { ...rest, [end]: value };
}

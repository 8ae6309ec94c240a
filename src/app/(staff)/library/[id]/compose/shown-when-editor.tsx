"use client";
import {
  comparisonWords,
  textOf,
  type AnswerValue,
  type Comparison,
  type Condition,
  type Question,
  type ShownWhen,
} from "@/core/questionnaire";
import { Button } from "@/ui/kit/button";
import { TextField } from "@/ui/kit/text-field";
import { Cluster, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";

export interface ShownWhenEditorProps {
  readonly rule: ShownWhen | undefined;
  /** What it is about, for who cannot see it: nothing for the line itself. */
  readonly of?: string;
  /** Questions and scores before it, in reading order. */
  readonly earlier: readonly Question[];
  /** "Shown when" read back as a sentence. */
  readonly sentence: string | undefined;
  /** What the conditions decide about: whether the line is shown, or whether it alarms. */
  readonly purpose?: "shown" | "alert";
  /** Each change is made to the rule as it is then: what is shown here may lag behind what was picked. */
  readonly onChange: (change: (rule: ShownWhen | undefined) => ShownWhen | undefined) => void;
}
const compared: readonly Question["type"][] = ["integer", "decimal", "quantity", "date", "time"];
const operatorsFor = (q: Question | undefined): readonly Comparison[] =>
  q && compared.includes(q.type) ? ["=", "!=", ">", "<", ">=", "<=", "exists"] : ["=", "!=", "exists"];
const yes: AnswerValue = { type: "boolean", value: true };
const firstAnswer = (question: Question): AnswerValue => {
  if (question.type === "boolean") return yes;
  if (question.options[0]) return question.options[0].value;
  switch (question.type) {
    case "integer":
    case "decimal":
      return { type: question.type, value: typeof question.minValue === "number" ? question.minValue : 0 };
    case "quantity":
      return {
        type: "quantity",
        value: { value: 0, ...(question.unit?.display ? { unit: question.unit.display } : {}) },
      };
    case "date":
      return { type: "date", value: "2000-01-01" };
    case "time":
      return { type: "time", value: "12:00" };
    case "url":
      return { type: "uri", value: "" };
    default:
      return { type: "string", value: "" };
  }
};
/** What a condition on a question starts as: the answer people ask about most. */
export const conditionOn = (q: Question): Condition =>
  q.options.length > 0 || q.type === "boolean" || compared.includes(q.type)
    ? { question: q.linkId, operator: "=", answer: firstAnswer(q) }
    : { question: q.linkId, operator: "exists", answer: yes };

/** "Shown when", built by picking and read back as a sentence. */
export function ShownWhenEditor({
  rule,
  of = "",
  earlier,
  sentence,
  purpose = "shown",
  onChange,
}: ShownWhenEditorProps) {
  // A score is known once all it counts was asked.
  const usable = earlier.filter((q) => !q.score || q.score.items.every((id) => earlier.some((e) => e.linkId === id)));
  const conditions = rule?.conditions ?? [];
  const set = (change: (conditions: readonly Condition[]) => readonly Condition[]): void =>
    onChange((now) => {
      const next = change(now?.conditions ?? []);
      return next.length === 0 ? undefined : { behavior: now?.behavior ?? "all", conditions: next };
    });
  if (usable.length === 0) return <Soft>Always shown. There is no question before it that could decide.</Soft>;
  return (
    <Stack $gap="0.6rem">
      {purpose === "shown" && <div>{sentence ? <>Shown when {sentence}.</> : "Always shown."}</div>}
      {conditions.length > 1 && (
        <Pick
          small
          bare
          label="How the conditions go together"
          value={rule!.behavior}
          options={[
            { value: "all", label: "when all of these are so" },
            { value: "any", label: "when any of these is so" },
          ]}
          onChange={(v) => onChange((now) => now && { ...now, behavior: v as ShownWhen["behavior"] })}
        />
      )}
      {conditions.map((condition, index) => {
        const question = usable.find((u) => u.linkId === condition.question);
        const put = (change: (c: Condition) => Condition): void =>
          set((all) => all.map((old, j) => (j === index ? change(old) : old)));
        const valueOf = () => {
          if (condition.operator === "exists") {
            if (condition.answer.type === "boolean" && condition.answer.value) return "exists";
            return "missing";
          }
          return condition.operator;
        };
        return (
          <Stack key={index} $gap="0.4rem" role="group" aria-label={`Condition ${index + 1}${of}`}>
            <Pick
              small
              bare
              label="Question"
              value={question ? condition.question : ""}
              placeholder="A question that is not there any more"
              options={usable.map((u) => ({
                value: u.linkId,
                label: `${u.score ? "Score: " : ""}${u.text || "without words"}`,
              }))}
              onChange={(id) => put(() => conditionOn(usable.find((u) => u.linkId === id)!))}
            />
            <Cluster $gap="0.4rem">
              <Pick
                small
                bare
                label="Comparison"
                value={valueOf()}
                options={operatorsFor(question).flatMap((o) =>
                  o === "exists"
                    ? [
                        { value: "exists", label: "is answered" },
                        { value: "missing", label: "is not answered" },
                      ]
                    : [{ value: o, label: comparisonWords[o] }],
                )}
                onChange={(option) =>
                  put((was) =>
                    option === "exists" || option === "missing"
                      ? { ...was, operator: "exists", answer: { type: "boolean", value: option === "exists" } }
                      : {
                          ...was,
                          operator: option as Comparison,
                          answer: was.operator === "exists" && question ? firstAnswer(question) : was.answer,
                        },
                  )
                }
              />
              {condition.operator !== "exists" && question && (
                <AnswerPick
                  question={question}
                  value={condition.answer}
                  onChange={(answer) => put((was) => ({ ...was, answer }))}
                />
              )}
              <Button
                weight="quiet"
                aria-label={`Remove condition ${index + 1}`}
                onPress={() => set((all) => all.filter((_, j) => j !== index))}
              >
                Remove
              </Button>
            </Cluster>
          </Stack>
        );
      })}
      <div>
        <Button weight="quiet" onPress={() => set((all) => [...all, conditionOn(usable.at(-1)!)])}>
          {conditions.length === 0 && purpose === "shown" ? "Show it only when…" : "Add a condition"}
        </Button>
      </div>
    </Stack>
  );
}

function AnswerPick({
  question,
  value,
  onChange,
}: {
  readonly question: Question;
  readonly value: AnswerValue;
  readonly onChange: (value: AnswerValue) => void;
}) {
  if (question.type === "boolean")
    return (
      <Pick
        small
        bare
        label="Answer"
        value={String(value.value)}
        options={[
          { value: "true", label: "yes" },
          { value: "false", label: "no" },
        ]}
        onChange={(v) => onChange({ type: "boolean", value: v === "true" })}
      />
    );
  if (question.options.length > 0) {
    const code = (v: AnswerValue): string => (v.type === "coding" ? (v.value.code ?? "") : String(v.value));
    return (
      <Pick
        small
        bare
        label="Answer"
        value={question.options.some((o) => code(o.value) === code(value)) ? code(value) : ""}
        options={question.options.map((o) => ({ value: code(o.value), label: textOf(o.value) }))}
        onChange={(v) => onChange(question.options.find((o) => code(o.value) === v)!.value)}
      />
    );
  }
  const typed = () => {
    if (value.type === "quantity") return String(value.value.value);
    if (value.type === "coding") return "";
    return String(value.value);
  };
  const shown = typed();
  return (
    <TextField
      label={<Soft>Answer</Soft>}
      defaultValue={shown}
      dir="ltr"
      onChange={(text) => {
        const number = Number(text.replace(",", "."));
        const inputType = () => {
          if (question.type === "date") return "date";
          if (question.type === "time") return "time";
          if (question.type === "url") return "uri";
          return "string";
        };
        if (question.type === "integer" || question.type === "decimal") {
          if (text.trim() !== "" && Number.isFinite(number)) onChange({ type: question.type, value: number });
        } else if (question.type === "quantity") {
          if (text.trim() !== "" && Number.isFinite(number))
            onChange({
              type: "quantity",
              value: { value: number, ...(question.unit?.display ? { unit: question.unit.display } : {}) },
            });
        } else
          onChange({
            type: inputType(),
            value: text,
          });
      }}
    />
  );
}

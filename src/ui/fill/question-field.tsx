"use client";
import { useRef, useState } from "react";
import styled from "styled-components";
import { optionWords, sameValue, type AnswerValue, type Question } from "@/core/questionnaire";
import { plainDigits, plainNumber } from "@/core/shared";
import type { FillWords } from "@/i18n/translator";
import { Button } from "@/ui/kit/button";
import { CheckboxGroup, RadioGroup } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { Spoken, Stack } from "@/ui/kit/page";
import { useTimeFrame } from "@/ui/kit/time";
import { describers, elementId } from "./steps";
import { DateField, FileQuestion, LookUp, Pick } from "./seldom-asked";

export interface QuestionFieldProps {
  readonly question: Question;
  readonly values: readonly AnswerValue[];
  readonly onChange: (values: readonly AnswerValue[]) => void;
  readonly onBlur: () => void;
  readonly problem: string | undefined;
  readonly words: FillWords;
  readonly partId: string;
  /** The key of its place among the answers. */
  readonly answerKey: string;
  /** A row of a grid: its options stand beside each other. */
  readonly row?: boolean;
  /** Whoever fills it in is asked about themselves: their browser may know the answer. */
  readonly own?: boolean;
}
/** One question, by its type. */
export function QuestionField(props: QuestionFieldProps) {
  const { question } = props;
  if (question.type === "boolean") return question.terms === undefined ? <YesNo {...props} /> : <Terms {...props} />;
  if (question.control === "slider" && typeof question.minValue === "number" && typeof question.maxValue === "number")
    return <Scale {...props} />;
  if (
    question.type === "choice" &&
    !question.repeats &&
    (question.control === "drop-down" || question.control === "autocomplete")
  )
    return <FromList {...props} />;
  if (question.options.length > 0) return question.repeats ? <SeveralOf {...props} /> : <OneOf {...props} />;
  if (question.type === "integer" || question.type === "decimal" || question.type === "quantity")
    return <NumberField {...props} />;
  if (question.type === "attachment") return <FileQuestion {...props} />;
  if (question.type === "date") return <DateQuestion {...props} />;
  return <TextQuestion {...props} />;
}

function DateQuestion(props: QuestionFieldProps) {
  const { locale } = useTimeFrame();
  const given = props.values[0];
  return (
    <DateField
      {...commonOf(props)}
      value={given?.type === "date" ? given.value : ""}
      locale={locale}
      autoComplete={autoCompleteOf(props)}
      onBlur={props.onBlur}
      onChange={(day) => props.onChange(day === "" ? [] : [{ type: "date", value: day }])}
    />
  );
}

const commonOf = ({ question, problem, words, partId, answerKey }: QuestionFieldProps) => ({
  describedBy: describers(elementId(partId, answerKey)),
  label: question.prefix ? `${question.prefix}. ${question.text}` : question.text,
  help: question.help,
  problem,
  required: question.required,
  optional: question.required ? undefined : words("optional"),
});

/** What a browser may fill in by itself (HTML autofill), by the chart field an answer is for. */
const fillsIn: Readonly<Record<string, string>> = {
  "first-name": "given-name",
  "last-name": "family-name",
  "preferred-name": "nickname",
  "birth-date": "bday",
  email: "email",
  phone: "tel",
  address: "street-address",
};
const autoCompleteOf = ({ question, own }: QuestionFieldProps): string | undefined =>
  own === true && question.posting ? fillsIn[question.posting.field] : undefined;

function YesNo(props: QuestionFieldProps) {
  const { values, onChange, onBlur, words, question } = props;
  const value = values[0]?.type === "boolean" ? String(values[0].value) : "";
  return (
    <Clearable value={value} required={question.required} words={words} onClear={() => onChange([])}>
      <RadioGroup
        {...commonOf(props)}
        value={value}
        onBlur={onBlur}
        inline
        onChange={(v) => onChange([{ type: "boolean", value: v === "true" }])}
        options={[
          { value: "true", label: words("yes") },
          { value: "false", label: words("no") },
        ]}
      />
    </Clearable>
  );
}

/** Terms are there to be read: agreeing opens up once they were opened. */
function Terms(props: QuestionFieldProps) {
  const { question, values, onChange, onBlur, words, problem } = props;
  const agreed = values[0]?.type === "boolean" && values[0].value;
  const [opened, setOpened] = useState(agreed);
  return (
    <Stack $gap="0.6rem">
      <details
        onToggle={(e) => {
          if (e.currentTarget.open) setOpened(true);
        }}
      >
        <Summary>{words("openTerms")}</Summary>
        <TermsText dir="auto">{question.terms}</TermsText>
      </details>
      <CheckboxGroup
        {...commonOf(props)}
        help={opened ? question.help : words("termsFirst")}
        problem={problem}
        disabled={!opened}
        value={agreed ? ["yes"] : []}
        onBlur={onBlur}
        options={[{ value: "yes", label: words("agree") }]}
        onChange={(v) => onChange(v.length > 0 ? [{ type: "boolean", value: true }] : [])}
      />
    </Stack>
  );
}

/**
 * Numbers in a row between two words. A row of stops, not a sliding knob: nothing is chosen before the client chooses
 * it.
 */
function Scale(props: QuestionFieldProps) {
  const { question, values, onChange, onBlur, words } = props;
  const low = Number(question.minValue);
  const high = Number(question.maxValue);
  const step = Math.max(1, question.step ?? 1);
  const stops = Array.from({ length: Math.min(101, Math.floor((high - low) / step) + 1) }, (_, i) =>
    String(low + i * step),
  );
  const value = values[0]?.type === "integer" ? String(values[0].value) : "";
  const common = commonOf(props);
  const endsId = `${elementId(props.partId, props.answerKey)}-ends`;
  return (
    <Clearable value={value} required={question.required} words={words} onClear={() => onChange([])}>
      <RadioGroup
        {...common}
        describedBy={`${common.describedBy} ${endsId}`}
        value={value}
        onBlur={onBlur}
        stops
        options={stops.map((v) => ({ value: v, label: v }))}
        onChange={(v) => onChange([{ type: "integer", value: Number(v) }])}
      />
      {question.ends ? (
        <>
          <Ends aria-hidden="true">
            <span>{question.ends[0]}</span>
            <span>{question.ends[1]}</span>
          </Ends>
          <Spoken id={endsId}>
            {stops[0]}: {question.ends[0]}, {stops.at(-1)}: {question.ends[1]}
          </Spoken>
        </>
      ) : null}
    </Clearable>
  );
}

function FromList(props: QuestionFieldProps) {
  const { question, values, onChange, onBlur, words } = props;
  const index = values[0] ? question.options.findIndex((o) => sameValue(o.value, values[0]!)) : -1;
  const Field = question.control === "autocomplete" ? LookUp : Pick;
  return (
    <Clearable
      value={index < 0 ? "" : String(index)}
      required={question.required}
      words={words}
      onClear={() => onChange([])}
    >
      <Field
        {...commonOf(props)}
        value={index < 0 ? "" : String(index)}
        onBlur={onBlur}
        placeholder={words("choose")}
        options={question.options.map((o, i) => ({ value: String(i), label: optionWords(o) }))}
        onChange={(v) => onChange(v === "" ? [] : [question.options[Number(v)]!.value])}
      />
    </Clearable>
  );
}

const otherValue = "other";
function OneOf(props: QuestionFieldProps) {
  const { question, values, onChange, onBlur, words, row = false } = props;
  const given = values[0];
  const index = given ? question.options.findIndex((o) => sameValue(o.value, given)) : -1;
  const [other, setOther] = useState(given !== undefined && index < 0);
  const open = question.type === "open-choice";
  const chosenHere = () => {
    if (index >= 0) return String(index);
    if (open && (other || given)) return otherValue;
    return "";
  };
  const value = chosenHere();
  const options = [
    ...question.options.map((o, i) => ({
      value: String(i),
      label: optionWords(o, { yes: words("yes"), no: words("no") }),
    })),
    ...(open ? [{ value: otherValue, label: words("other") }] : []),
  ];
  return (
    <Stack $gap="0.75rem">
      <Clearable
        value={value}
        required={question.required}
        words={words}
        onClear={() => {
          setOther(false);
          onChange([]);
        }}
      >
        <RadioGroup
          {...commonOf(props)}
          value={value}
          onBlur={onBlur}
          options={options}
          stops={row && "wide"}
          onChange={(v) => {
            setOther(v === otherValue);
            onChange(v === otherValue ? [] : [question.options[Number(v)]!.value]);
          }}
        />
      </Clearable>
      {value === otherValue && (
        <TextField
          label={words("otherLabel")}
          value={given?.type === "string" ? given.value : ""}
          onBlur={onBlur}
          onChange={(v) => onChange(v === "" ? [] : [{ type: "string", value: v }])}
        />
      )}
    </Stack>
  );
}

function SeveralOf(props: QuestionFieldProps) {
  const { question, values, onChange, onBlur, words } = props;
  const chosen = question.options.flatMap((o, i) => (values.some((v) => sameValue(v, o.value)) ? [String(i)] : []));
  return (
    <CheckboxGroup
      {...commonOf(props)}
      value={chosen}
      onBlur={onBlur}
      options={question.options.map((o, i) => ({
        value: String(i),
        label: optionWords(o, { yes: words("yes"), no: words("no") }),
      }))}
      onChange={(now) => {
        const added = now.find((i) => !chosen.includes(i));
        const isExclusive = (i: string): boolean => question.options[Number(i)]?.exclusive === true;
        // "None of these" clears the others, and any other choice clears it.
        const keptWith = () => {
          if (added === undefined) return now;
          if (isExclusive(added)) return [added];
          return now.filter((i) => !isExclusive(i));
        };
        const kept = keptWith();
        onChange(kept.map((i) => question.options[Number(i)]!.value));
      }}
    />
  );
}

function NumberField(props: QuestionFieldProps) {
  const { question, values, onChange, onBlur } = props;
  const given = values[0];
  const storedOf = () => {
    if (given?.type === "string") return given.value;
    if (given?.type === "quantity") return String(given.value.value);
    if (given?.type === "integer" || given?.type === "decimal") return String(given.value);
    return "";
  };
  const stored = storedOf();
  const [typed, setTyped] = useState(stored);
  const unit = question.unit?.display ?? question.unit?.code;
  const label = unit ? `${commonOf(props).label} (${unit})` : commonOf(props).label;
  return (
    <TextField
      {...commonOf(props)}
      label={label}
      placeholder={question.entryFormat}
      value={typed}
      onBlur={onBlur}
      inputMode={question.type === "integer" ? "numeric" : "decimal"}
      dir="ltr"
      onChange={(text) => {
        setTyped(text);
        const plain = plainNumber(text);
        if (plain === "") {
          onChange([]);
          return;
        }
        const number = Number(plain);
        // What is no number goes out as text, so that the check says so instead of the answer silently staying as it
        // was.
        if (!Number.isFinite(number) || (question.type === "integer" && !Number.isInteger(number)))
          onChange([{ type: "string", value: text }]);
        else if (question.type === "quantity")
          onChange([{ type: "quantity", value: { value: number, ...(unit ? { unit } : {}) } }]);
        else onChange([{ type: question.type === "integer" ? "integer" : "decimal", value: number }]);
      }}
    />
  );
}

const inputTypes = { time: "time", url: "url" } as const;
function TextQuestion(props: QuestionFieldProps) {
  const { question, values, onChange, onBlur } = props;
  const given = values[0];
  const value = given && "value" in given && typeof given.value === "string" ? given.value : "";
  const inputType = () => {
    if (question.keyboard === "email") return "email";
    if (question.keyboard === "phone") return "tel";
    if (question.type in inputTypes) return inputTypes[question.type as keyof typeof inputTypes];
    return "text";
  };
  const type = inputType();
  const answerTypeHere = () => {
    if (question.type === "time") return question.type;
    if (question.type === "url") return "uri";
    return "string";
  };
  const answerType = answerTypeHere();
  return (
    <TextField
      {...commonOf(props)}
      placeholder={question.entryFormat}
      value={value}
      type={type}
      long={question.type === "text"}
      onBlur={onBlur}
      autoComplete={autoCompleteOf(props)}
      dir={type === "text" ? "auto" : "ltr"}
      // Never cut short: a text too long is kept, and said to be too long.
      onChange={(typed) => {
        const text = type === "text" ? typed : plainDigits(typed);
        onChange(text === "" ? [] : [{ type: answerType, value: text }]);
      }}
    />
  );
}

/** A choice that may be left open can be taken back. */
function Clearable({
  value,
  required,
  words,
  onClear,
  children,
}: {
  readonly value: string;
  readonly required: boolean;
  readonly words: FillWords;
  readonly onClear: () => void;
  readonly children: React.ReactNode;
}) {
  const box = useRef<HTMLDivElement>(null);
  // There from the start, hidden: making a button takes a slow phone as long as the choice itself.
  return (
    <div ref={box}>
      {children}
      {required ? null : (
        <End hidden={value === ""}>
          <Button
            weight="quiet"
            onPress={() => {
              onClear();
              // The button is gone with the answer: the question has the focus again.
              box.current?.querySelector<HTMLElement>("input, button")?.focus();
            }}
          >
            {words("clear")}
          </Button>
        </End>
      )}
    </div>
  );
}
const Summary = styled.summary`
  cursor: pointer;
  padding-block: 0.6rem;
  font-weight: 600;
  color: var(--plum);
  text-decoration: underline;
  text-underline-offset: 0.2em;
`;
const TermsText = styled.p`
  white-space: pre-wrap;
  padding-block: 0.5rem;
  padding-inline: 1rem 0;
  border-inline-start: 3px solid var(--rule-strong);
`;
const Ends = styled.div`
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  color: var(--soft);
  font-size: 0.94em;
  padding-block-start: 0.4rem;
  & > :last-child {
    text-align: end;
  }
`;
const End = styled.div`
  display: flex;
  justify-content: flex-end;
  font-size: var(--small);
  &[hidden] {
    display: none;
  }
`;

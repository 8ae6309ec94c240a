"use client";
import styled from "styled-components";
import {
  formatOf,
  isQuestion,
  kindOf,
  textFormats,
  type Item,
  type LineKind,
  type Question,
} from "@/core/questionnaire";
import { TextField } from "@/ui/kit/text-field";
import { Fold } from "@/ui/kit/ledger";
import { Pick } from "@/ui/kit/pick";

/** Changes the line as it is then: what is shown here may lag behind what was typed. `mark`: one step of undo. */
export type Change = (change: (item: Item) => Item, mark?: string) => void;
type Value<K extends keyof Question> = Question[K] | undefined;
export const set =
  <K extends keyof Question>(key: K, given: Value<K> | ((now: Question) => Value<K>)) =>
  (item: Item): Item => {
    const { [key]: _, ...rest } = item as Question;
    const value = typeof given === "function" ? given(item as Question) : given;
    return (value === undefined ? rest : { ...rest, [key]: value }) as Item;
  };
const whole = (value: number | undefined, least: number, most = Number.MAX_SAFE_INTEGER): number | undefined =>
  value === undefined ? undefined : Math.min(most, Math.max(least, Math.round(value)));

export interface QuestionFieldsProps {
  readonly question: Question;
  readonly onChange: Change;
}
/** What a question says and takes, by its kind. */
export function QuestionFields({ question, onChange }: QuestionFieldsProps) {
  const kind = kindOf(question);
  return (
    <>
      <Cols>
        <Words question={question} onChange={onChange} label="Help" of="help" />
        {kind === "short-text" && <Format question={question} onChange={onChange} />}
        {kind === "terms" && <Words question={question} onChange={onChange} label="The terms" of="terms" long />}
        {kind === "scale" && <End question={question} onChange={onChange} label="Word at the low end" end={0} />}
        {kind === "scale" && <End question={question} onChange={onChange} label="Word at the high end" end={1} />}
        {kind === "amount" && (
          <TextField
            label="Unit"
            value={question.unit?.display ?? ""}
            onChange={(unit) =>
              onChange(set("unit", unit === "" ? undefined : { code: unit, display: unit }), `unit ${question.linkId}`)
            }
          />
        )}
        {boundsOf[kind]?.often.map((bound) => (
          <Bound key={`${bound.of} ${question.linkId}`} bound={bound} question={question} onChange={onChange} />
        ))}
      </Cols>
      {(hasExample.has(kind) || boundsOf[kind]?.rarely) && (
        <Fold>
          <summary>More</summary>
          <Cols>
            {hasExample.has(kind) && (
              <Words question={question} onChange={onChange} label="Example in the empty field" of="entryFormat" />
            )}
            {boundsOf[kind]?.rarely?.map((bound) => (
              <Bound key={`${bound.of} ${question.linkId}`} bound={bound} question={question} onChange={onChange} />
            ))}
          </Cols>
        </Fold>
      )}
    </>
  );
}

type Limit = "minValue" | "maxValue" | "step" | "maxDecimalPlaces" | "minLength" | "maxLength";
interface LimitField {
  readonly of: Limit;
  readonly label: string;
  readonly take?: (value: number | undefined) => number | undefined;
}
const smallest: LimitField = { of: "minValue", label: "Smallest" };
const largest: LimitField = { of: "maxValue", label: "Largest" };
const step: LimitField = { of: "step", label: "From one stop to the next", take: (value) => whole(value, 1) };
const places: LimitField = {
  of: "maxDecimalPlaces",
  label: "Digits after the point, at most",
  take: (value) => whole(value, 0, 6),
};
const lengths: readonly LimitField[] = [
  { of: "minLength", label: "Shortest, in characters", take: (value) => whole(value, 1) },
  { of: "maxLength", label: "Longest, in characters", take: (value) => whole(value, 1) },
];
interface Bounds {
  readonly often: readonly LimitField[];
  readonly rarely?: readonly LimitField[];
}
const boundsOf: Partial<Readonly<Record<LineKind, Bounds>>> = {
  "whole-number": { often: [smallest, largest] },
  scale: { often: [smallest, largest, step] },
  decimal: { often: [smallest, largest], rarely: [places] },
  amount: { often: [smallest, largest], rarely: [places] },
  "short-text": { often: [], rarely: lengths },
  "long-text": { often: [], rarely: lengths },
};

interface BoundProps extends QuestionFieldsProps {
  readonly bound: LimitField;
}
function Bound({ bound: { of, label, take }, question, onChange }: BoundProps) {
  const put = (value: number | undefined): void =>
    onChange(set(of, take ? take(value) : value), `${of} ${question.linkId}`);
  return <NumberField label={label} value={question[of]} onChange={put} />;
}
export interface NumberFieldProps {
  readonly label: string;
  readonly value: number | string | undefined;
  readonly onChange: (value: number | undefined) => void;
}
/** A number as it is typed, with a point or a comma; what is none yet changes nothing. */
export function NumberField({ label, value, onChange }: NumberFieldProps) {
  return (
    <TextField
      label={label}
      defaultValue={value === undefined ? "" : String(value)}
      inputMode="decimal"
      dir="ltr"
      onChange={(text) => {
        const number = Number(text.replace(",", "."));
        if (text.trim() === "") onChange(undefined);
        else if (Number.isFinite(number)) onChange(number);
      }}
    />
  );
}

interface WordsProps extends QuestionFieldsProps {
  readonly label: string;
  readonly of: "help" | "terms" | "entryFormat";
  readonly long?: boolean;
}
function Words({ question, onChange, label, of, long = false }: WordsProps) {
  const put = (text: string): void =>
    onChange(set(of, text === "" && of !== "terms" ? undefined : text), `${of} ${question.linkId}`);
  return <TextField label={label} long={long} value={question[of] ?? ""} onChange={put} />;
}
interface EndProps extends QuestionFieldsProps {
  readonly label: string;
  readonly end: 0 | 1;
}
function End({ question, onChange, label, end }: EndProps) {
  const put = (text: string): void =>
    onChange(
      set("ends", (now) => (end === 0 ? [text, now.ends?.[1] ?? ""] : [now.ends?.[0] ?? "", text])),
      `end ${end} ${question.linkId}`,
    );
  return <TextField label={label} value={question.ends?.[end] ?? ""} onChange={put} />;
}
const hasExample: ReadonlySet<LineKind> = new Set([
  "short-text",
  "long-text",
  "whole-number",
  "decimal",
  "amount",
  "email",
  "phone",
  "web-address",
]);
/**
 * Picked from a list, with an example for the empty field unless there is one. A pattern that came in with a file stays
 * until another is picked.
 */
function Format({ question, onChange }: { readonly question: Question; readonly onChange: Change }) {
  const known = formatOf(question.pattern);
  const options = [
    { value: "any", label: "anything" },
    ...textFormats.map((f) => ({ value: f.key, label: f.words })),
    ...(question.pattern !== undefined && !known ? [{ value: "own", label: "as its file says" }] : []),
  ];
  const pick =
    (key: string) =>
    (item: Item): Item => {
      const format = textFormats.find((f) => f.key === key);
      const before = isQuestion(item) ? formatOf(item.pattern) : undefined;
      const kept = set("entryFormat", (now) =>
        now.entryFormat === undefined || now.entryFormat === before?.example ? format?.example : now.entryFormat,
      )(item);
      return key === "own" ? item : set("pattern", format?.pattern)(kept);
    };
  return (
    <Pick
      label="Looks like"
      value={known?.key ?? (question.pattern === undefined ? "any" : "own")}
      options={options}
      onChange={(key) => onChange(pick(key))}
    />
  );
}

export const Cols = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
  gap: 0.8rem;
`;

"use client";
import { memo, useState } from "react";
import styled from "styled-components";
import {
  childrenOf,
  formatOf,
  gridOptions,
  hasOptions,
  isQuestion,
  kindOf,
  numbersOf,
  postingRules,
  readOptions,
  shownWhenWords,
  textFormats,
  textOf,
  withGridOptions,
  writeOptions,
  type Item,
  type LineKind,
  type PostingRule,
  type Question,
  type ShownWhen,
} from "@/core/questionnaire";
import type { ScoreRange } from "@/core/proof";
import { Button } from "@/ui/button";
import { Checkbox, TextField } from "@/ui/fields";
import { Cluster, Soft, Stack } from "@/ui/page";
import { Pick } from "@/ui/pick";
import { useChartFields } from "./chart-fields";
import { BankOffer } from "./bank-offer";
import { kindOptions } from "./kind-words";
import { ScoreEditor } from "./score-editor";
import { conditionOn, ShownWhenEditor } from "./shown-when-editor";

export interface LineSettingsProps {
  readonly item: Item;
  readonly url: string;
  /** Questions before it, in reading order. */
  readonly earlier: readonly Question[];
  readonly sentence: string | undefined;
  /** The questionnaire being written, whose own questions are not offered. */
  readonly id: string;
  /** What it can come out as, when it is a score. */
  readonly range: ScoreRange | undefined;
  /** Its options are those of the grid it stands in. */
  readonly inGrid: boolean;
  readonly actions: LineActions;
}
export interface LineActions {
  change(linkId: string, change: (item: Item) => Item, mark?: string): void;
  kind(linkId: string, kind: LineKind): void;
  followUp(question: Question): void;
  duplicate(linkId: string): void;
  remove(linkId: string): void;
}
const ruleWords: Readonly<Record<PostingRule, string>> = {
  replace: "replace what is there",
  add: "add to what is there",
  "fill-if-blank": "only if nothing is there",
  ask: "ask me each time",
};
/** Each change is made to the line as it is then: what is shown here may lag behind what was typed. */
const set =
  <K extends keyof Question>(key: K, given: Question[K] | undefined | ((now: Question) => Question[K] | undefined)) =>
  (item: Item): Item => {
    const { [key]: _, ...rest } = item as Question;
    const value = typeof given === "function" ? given(item as Question) : given;
    return (value === undefined ? rest : { ...rest, [key]: value }) as Item;
  };

/** Everything about the line that is being written, in place below it. */
export const LineSettings = memo(function LineSettings(props: LineSettingsProps) {
  const { item, id, actions } = props;
  const [taken, setTaken] = useState(0);
  const offered = isQuestion(item) && !item.score && item.options.length === 0 && !item.posting;
  return (
    <Box role="group" aria-label={`Settings of ${item.text || "this line"}`}>
      {offered && (
        <BankOffer
          words={item.text}
          except={id}
          onTake={(question) => {
            setTaken(taken + 1);
            actions.change(item.linkId, (i) => ({
              ...question,
              linkId: i.linkId,
              ...(i.shownWhen ? { shownWhen: i.shownWhen } : {}),
            }));
          }}
        />
      )}
      <Settings {...props} taken={taken} />
    </Box>
  );
});
/** What does not follow the words of the line, and so stays as it is while they are typed. */
const Settings = memo(
  function Settings({
    item,
    url,
    earlier,
    sentence,
    range,
    inGrid,
    actions,
    taken,
  }: LineSettingsProps & { readonly taken: number }) {
    const onChange: Change = (change, mark) => actions.change(item.linkId, change, mark);
    const kind = kindOf(item);
    const question = isQuestion(item) ? item : undefined;
    const asks = question !== undefined && !question.score;
    return (
      <>
        <Cluster $gap="0.8rem">
          <Pick
            small
            bare
            label="Kind"
            value={kind}
            options={kindOptions}
            onChange={(v) => actions.kind(item.linkId, v as LineKind)}
          />
          {asks && (
            <Checkbox
              label="Has to be answered"
              isSelected={question.required}
              onChange={(required) => onChange((i) => ({ ...i, required }) as Item)}
            />
          )}
          {kind === "yes-no" && (
            <Button weight="quiet" onPress={() => actions.followUp(item as Question)}>
              Ask more if yes
            </Button>
          )}
          <Button weight="quiet" onPress={() => actions.duplicate(item.linkId)}>
            Duplicate
          </Button>
          <Button weight="quiet" onPress={() => actions.remove(item.linkId)}>
            Delete
          </Button>
        </Cluster>
        {kind === "grid" && <GridOptions key={item.linkId} grid={item} url={url} onChange={onChange} />}
        {question && hasOptions(kind) && inGrid && <Soft>A row of a grid: its options are those of the grid.</Soft>}
        {question && hasOptions(kind) && !inGrid && (
          <OptionsBox key={`${item.linkId} ${kind} ${taken}`} question={question} url={url} onChange={onChange} />
        )}
        {question && hasOptions(kind) && !inGrid && question.options.length > 0 && earlier.length > 0 && (
          <OptionRules key={`rules ${item.linkId}`} question={question} earlier={earlier} onChange={onChange} />
        )}
        {asks && (
          <Cols>
            <TextField
              label="Help below the question"
              value={question.help ?? ""}
              onChange={(v) => onChange(set("help", v === "" ? undefined : v), `help ${item.linkId}`)}
            />
            {hasExample.has(kind) && (
              <TextField
                label="Example in the empty field"
                value={question.entryFormat ?? ""}
                onChange={(v) => onChange(set("entryFormat", v === "" ? undefined : v), `example ${item.linkId}`)}
              />
            )}
            {kind === "short-text" && <Format question={question} onChange={onChange} />}
            {kind === "terms" && (
              <TextField
                label="The terms"
                long
                value={question.terms ?? ""}
                onChange={(v) => onChange(set("terms", v), `terms ${item.linkId}`)}
              />
            )}
            {kind === "scale" && (
              <TextField
                label="Word at the low end"
                value={question.ends?.[0] ?? ""}
                onChange={(v) =>
                  onChange(
                    set("ends", (now) => [v, now.ends?.[1] ?? ""]),
                    `low ${item.linkId}`,
                  )
                }
              />
            )}
            {kind === "scale" && (
              <TextField
                label="Word at the high end"
                value={question.ends?.[1] ?? ""}
                onChange={(v) =>
                  onChange(
                    set("ends", (now) => [now.ends?.[0] ?? "", v]),
                    `high ${item.linkId}`,
                  )
                }
              />
            )}
            {kind === "amount" && (
              <TextField
                label="Unit"
                value={question.unit?.display ?? ""}
                onChange={(v) =>
                  onChange(set("unit", v === "" ? undefined : { code: v, display: v }), `unit ${item.linkId}`)
                }
              />
            )}
            {["whole-number", "decimal", "amount", "scale"].includes(kind) && (
              <Bound
                key={`min ${item.linkId}`}
                label="Smallest"
                value={question.minValue}
                onChange={(v) => onChange(set("minValue", v), `min ${item.linkId}`)}
              />
            )}
            {["whole-number", "decimal", "amount", "scale"].includes(kind) && (
              <Bound
                key={`max ${item.linkId}`}
                label="Largest"
                value={question.maxValue}
                onChange={(v) => onChange(set("maxValue", v), `max ${item.linkId}`)}
              />
            )}
            {kind === "scale" && (
              <Bound
                key={`step ${item.linkId}`}
                label="From one stop to the next"
                value={question.step}
                onChange={(v) =>
                  onChange(
                    set("step", typeof v === "number" ? Math.max(1, Math.round(v)) : undefined),
                    `step ${item.linkId}`,
                  )
                }
              />
            )}
            {kind === "decimal" || kind === "amount" ? (
              <Bound
                key={`places ${item.linkId}`}
                label="Digits after the point, at most"
                value={question.maxDecimalPlaces}
                onChange={(v) =>
                  onChange(
                    set(
                      "maxDecimalPlaces",
                      typeof v === "number" ? Math.min(6, Math.max(0, Math.round(v))) : undefined,
                    ),
                    `places ${item.linkId}`,
                  )
                }
              />
            ) : null}
            {(kind === "short-text" || kind === "long-text") && (
              <Bound
                key={`least ${item.linkId}`}
                label="Shortest, in characters"
                value={question.minLength}
                onChange={(v) =>
                  onChange(
                    set("minLength", typeof v === "number" ? Math.max(1, Math.round(v)) : undefined),
                    `least ${item.linkId}`,
                  )
                }
              />
            )}
            {(kind === "short-text" || kind === "long-text") && (
              <Bound
                key={`len ${item.linkId}`}
                label="Longest, in characters"
                value={question.maxLength}
                onChange={(v) =>
                  onChange(
                    set("maxLength", typeof v === "number" ? Math.max(1, Math.round(v)) : undefined),
                    `len ${item.linkId}`,
                  )
                }
              />
            )}
          </Cols>
        )}
        {question?.score && (
          <ScoreEditor
            key={item.linkId}
            rule={question.score}
            numbered={earlier.filter((q) => numbersOf(q))}
            range={range}
            onChange={(c) =>
              onChange(
                set("score", (now) => now.score && c(now.score)),
                `score ${item.linkId}`,
              )
            }
          />
        )}
        {asks && <Posting item={item} onChange={onChange} />}
        {asks && (question.type === "boolean" || numbersOf(question)) && (
          <Cols>
            <TextField
              label="Alert: words for Returns"
              value={question.alert?.message ?? ""}
              help="Left empty, it raises no alert."
              onChange={(v) =>
                onChange(
                  set("alert", (now) => (v === "" ? undefined : { from: now.alert?.from ?? 1, message: v })),
                  `alert ${item.linkId}`,
                )
              }
            />
            {question.alert && question.type !== "boolean" && (
              <Bound
                key={`from ${item.linkId}`}
                label="From the number"
                value={question.alert.from}
                onChange={(v) => {
                  if (typeof v === "number")
                    onChange(
                      set("alert", (now) => now.alert && { ...now.alert, from: v }),
                      `from ${item.linkId}`,
                    );
                }}
              />
            )}
          </Cols>
        )}
        <ShownWhenEditor
          key={`when ${item.linkId}`}
          rule={item.shownWhen}
          earlier={earlier}
          sentence={sentence}
          onChange={(c) =>
            onChange(({ shownWhen, ...rest }) => {
              const rule = c(shownWhen);
              return (rule ? { ...rest, shownWhen: rule } : rest) as Item;
            })
          }
        />
      </>
    );
  },
  (first, second) =>
    sameButWords(first.item, second.item) &&
    first.taken === second.taken &&
    first.url === second.url &&
    first.sentence === second.sentence &&
    first.inGrid === second.inGrid &&
    first.actions === second.actions &&
    first.range?.low === second.range?.low &&
    first.range?.high === second.range?.high &&
    first.earlier.length === second.earlier.length &&
    first.earlier.every((q, i) => q === second.earlier[i]),
);
const sameButWords = (a: Item, b: Item): boolean =>
  a === b ||
  (Object.keys(a).length === Object.keys(b).length &&
    Object.entries(a).every(([key, value]) => key === "text" || b[key as keyof Item] === value));
type Change = (change: (item: Item) => Item, mark?: string) => void;

function OptionsBox({
  question,
  url,
  onChange,
}: {
  readonly question: Question;
  readonly url: string;
  readonly onChange: Change;
}) {
  const [text, setText] = useState(() => writeOptions(question.options));
  return (
    <TextField
      label="Options"
      long
      value={text}
      help="One a line. Put = and a number after one to score it; ! before one that rules the others out."
      onChange={(v) => {
        setText(v);
        onChange(
          (i) => (isQuestion(i) ? { ...i, options: readOptions(v, i.options, `${url}/options`) } : i),
          `options ${question.linkId}`,
        );
      }}
    />
  );
}
/** Options that are offered only for some answers before. */
function OptionRules({
  question,
  earlier,
  onChange,
}: {
  readonly question: Question;
  readonly earlier: readonly Question[];
  readonly onChange: Change;
}) {
  const byKey = new Map(earlier.map((q) => [q.linkId, q]));
  const put = (index: number, change: (rule: ShownWhen | undefined) => ShownWhen | undefined): void =>
    onChange((item) =>
      isQuestion(item)
        ? {
            ...item,
            options: item.options.map((o, n) => {
              if (n !== index) return o;
              const { shownWhen, ...rest } = o;
              const rule = change(shownWhen);
              return rule ? { ...rest, shownWhen: rule } : rest;
            }),
          }
        : item,
    );
  const free = question.options.flatMap((o, i) => (o.shownWhen ? [] : [{ value: String(i), label: textOf(o.value) }]));
  return (
    <Stack $gap="0.8rem">
      {question.options.map(
        (option, index) =>
          option.shownWhen && (
            <Rule key={textOf(option.value)} role="group" aria-label={`When ${textOf(option.value)} is offered`}>
              <strong>{textOf(option.value)}</strong>
              <ShownWhenEditor
                rule={option.shownWhen}
                of={` of ${textOf(option.value)}`}
                earlier={earlier}
                sentence={shownWhenWords(option, byKey)}
                onChange={(c) => put(index, c)}
              />
            </Rule>
          ),
      )}
      {free.length > 0 && (
        <Pick
          small
          label="An option only for some"
          value=""
          placeholder="Choose the option"
          options={free}
          onChange={(v) => put(Number(v), () => ({ behavior: "all", conditions: [conditionOn(earlier.at(-1)!)] }))}
        />
      )}
    </Stack>
  );
}
/** Typed once for every row. */
function GridOptions({
  grid,
  url,
  onChange,
}: {
  readonly grid: Item;
  readonly url: string;
  readonly onChange: Change;
}) {
  const [text, setText] = useState(() => writeOptions(gridOptions(grid)));
  if (childrenOf(grid).length === 0)
    return <Soft>Press Enter for its first row. The options are typed here then, once for all rows.</Soft>;
  return (
    <TextField
      label="Options of every row"
      long
      value={text}
      help="One a line. Put = and a number after one to score it."
      onChange={(v) => {
        setText(v);
        onChange((i) => withGridOptions(i, readOptions(v, gridOptions(i), `${url}/options`)), `options ${grid.linkId}`);
      }}
    />
  );
}
function Bound({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number | string | undefined;
  readonly onChange: (v: number | undefined) => void;
}) {
  return (
    <TextField
      label={label}
      defaultValue={value === undefined ? "" : String(value)}
      inputMode="decimal"
      dir="ltr"
      onChange={(text) => {
        const n = Number(text.replace(",", "."));
        if (text.trim() === "") onChange(undefined);
        else if (Number.isFinite(n)) onChange(n);
      }}
    />
  );
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
/** Picked from a list, with an example for the empty field unless there is one. A pattern that came in with a file stays until another is picked. */
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
function Posting({ item, onChange }: { readonly item: Item; readonly onChange: Change }) {
  const posting = item.type === "display" ? undefined : item.posting;
  const { all, offered } = useChartFields();
  const fields = all.filter((f) => f.kind !== "rows" && (offered.includes(f) || f.key === posting?.field));
  return (
    <Cluster $gap="0.8rem">
      <Pick
        small
        label="The answer goes to"
        value={posting?.field ?? "nowhere"}
        options={[
          { value: "nowhere", label: "no chart field" },
          ...fields.map((f) => ({ value: f.key, label: f.label })),
        ]}
        onChange={(v) =>
          onChange(
            set("posting", (now) => (v === "nowhere" ? undefined : { field: v, rule: now.posting?.rule ?? "ask" })),
          )
        }
      />
      {posting && (
        <Pick
          small
          label="and should"
          value={posting.rule}
          options={postingRules.map((r) => ({ value: r, label: ruleWords[r] }))}
          onChange={(v) =>
            onChange(set("posting", (now) => now.posting && { field: now.posting.field, rule: v as PostingRule }))
          }
        />
      )}
    </Cluster>
  );
}

const Rule = styled.div`
  border-inline-start: 3px solid var(--rule-strong);
  padding-inline-start: 0.8rem;
  display: grid;
  gap: 0.4rem;
`;
const Box = styled(Stack)`
  padding-block: 0.6rem 0.4rem;
  font-size: var(--small);
  gap: 0.9rem;
`;
const Cols = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr));
  gap: 0.8rem;
`;

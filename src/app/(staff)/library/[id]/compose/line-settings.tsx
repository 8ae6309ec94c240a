"use client";
import { memo, useState } from "react";
import styled from "styled-components";
import {
  childrenOf,
  gridOptions,
  hasOptions,
  meansNone,
  isQuestion,
  kindOf,
  numbersOf,
  postingRules,
  readOptions,
  shownWhenWords,
  textOf,
  withGridOptions,
  writeOptions,
  type AnswerOption,
  type Display,
  type Item,
  type LineKind,
  type PostingRule,
  type Question,
  type ShownWhen,
} from "@/core/questionnaire";
import type { ScoreRange } from "@/core/proof";
import { Button } from "@/ui/kit/button";
import { Checkbox } from "@/ui/kit/choice-fields";
import { TextField } from "@/ui/kit/text-field";
import { Cluster, Soft, Stack } from "@/ui/kit/page";
import { Pick } from "@/ui/kit/pick";
import { useChartFields } from "./chart-fields";
import { BankOffer } from "./bank-offer";
import { kindOptions } from "./kind-words";
import { AlertFields } from "./alert-fields";
import { useTypedText } from "./use-history";
import { QuestionFields, set, type Change } from "./question-fields";
import { ScoreEditor } from "./score-editor";
import { SigningFields } from "./signing-fields";
import { conditionOn, ShownWhenEditor } from "./shown-when-editor";

export interface LineSettingsProps {
  readonly item: Item;
  readonly url: string;
  /** The questionnaire's own, as a tag. */
  readonly language: string;
  /** Questions before it, in reading order. */
  readonly earlier: readonly Question[];
  readonly sentence: string | undefined;
  /** The questionnaire being written, whose own questions are not offered. */
  readonly id: string;
  /** What it can come out as, when it is a score. */
  readonly range: ScoreRange | undefined;
  /** The questionnaire's PDF is signed, too. */
  readonly sheetUrl: string | undefined;
  /** Its options are those of the grid it stands in. */
  readonly inGrid: boolean;
  /** Every place to sign. */
  readonly places: readonly Display[];
  /** How often something was undone or redone. */
  readonly turns: number;
  readonly actions: LineActions;
}
export interface LineActions {
  change(linkId: string, change: (item: Item) => Item, mark?: string): void;
  kind(linkId: string, kind: LineKind): void;
  followUp(question: Question): void;
  duplicate(linkId: string): void;
  move(linkId: string, by: -1 | 1): void;
  remove(linkId: string): void;
}
const ruleWords: Readonly<Record<PostingRule, string>> = {
  replace: "replace what is there",
  add: "add to what is there",
  "fill-if-blank": "only if nothing is there",
  ask: "ask me each time",
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
    language,
    earlier,
    sentence,
    range,
    inGrid,
    places,
    sheetUrl,
    turns,
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
              Add a follow-up for yes
            </Button>
          )}
          <Button weight="quiet" onPress={() => actions.move(item.linkId, -1)}>
            Move up
          </Button>
          <Button weight="quiet" onPress={() => actions.move(item.linkId, 1)}>
            Move down
          </Button>
          <Button weight="quiet" onPress={() => actions.duplicate(item.linkId)}>
            Duplicate
          </Button>
          <Button weight="quiet" onPress={() => actions.remove(item.linkId)}>
            Delete
          </Button>
        </Cluster>
        {item.type === "display" && item.signature && (
          <SigningFields item={item} earlier={earlier} places={places} sheetUrl={sheetUrl} onChange={onChange} />
        )}
        {kind === "grid" && <GridOptions key={item.linkId} grid={item} url={url} turns={turns} onChange={onChange} />}
        {question && hasOptions(kind) && inGrid && <Soft>A row of a grid: its options are those of the grid.</Soft>}
        {question && hasOptions(kind) && !inGrid && (
          <OptionsBox
            key={`${item.linkId} ${kind} ${taken}`}
            question={question}
            url={url}
            language={language}
            turns={turns}
            onChange={onChange}
          />
        )}
        {question && hasOptions(kind) && !inGrid && question.options.length > 0 && earlier.length > 0 && (
          <OptionRules key={`rules ${item.linkId}`} question={question} earlier={earlier} onChange={onChange} />
        )}
        {asks && <QuestionFields question={question} onChange={onChange} />}
        {question?.score && (
          <ScoreEditor
            key={item.linkId}
            rule={question.score}
            linkId={item.linkId}
            numbered={earlier.filter((q) => numbersOf(q))}
            range={range}
            turns={turns}
            onChange={(c) =>
              onChange(
                set("score", (now) => now.score && c(now.score)),
                `score ${item.linkId}`,
              )
            }
          />
        )}
        {asks && <Posting item={item} onChange={onChange} />}
        {asks && <AlertFields question={question} earlier={earlier} onChange={onChange} />}
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
    first.language === second.language &&
    first.sentence === second.sentence &&
    first.inGrid === second.inGrid &&
    first.places.length === second.places.length &&
    first.places.every((place, i) => place === second.places[i]) &&
    first.turns === second.turns &&
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

/** An option whose words say that none is meant, and that does not rule the others out yet. */
function NoneOffer({
  question,
  language,
  onTake,
}: {
  readonly question: Question;
  readonly language: string;
  readonly onTake: (options: readonly AnswerOption[]) => void;
}) {
  const found = question.repeats
    ? question.options.find((o) => !o.exclusive && meansNone(textOf(o.value), language))
    : undefined;
  if (!found) return null;
  return (
    <Cluster>
      <Soft>“{textOf(found.value)}” can be chosen together with others.</Soft>
      <Button
        weight="quiet"
        onPress={() => onTake(question.options.map((o) => (o === found ? { ...o, exclusive: true } : o)))}
      >
        Let it rule the others out
      </Button>
    </Cluster>
  );
}

function OptionsBox({
  question,
  url,
  language,
  turns,
  onChange,
}: {
  readonly question: Question;
  readonly url: string;
  readonly language: string;
  readonly turns: number;
  readonly onChange: Change;
}) {
  const [text, setText] = useTypedText(writeOptions(question.options), turns);
  return (
    <Stack $gap="0.3rem">
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
      <NoneOffer
        question={question}
        language={language}
        onTake={(options) => {
          setText(writeOptions(options));
          onChange((i) => (isQuestion(i) ? { ...i, options } : i));
        }}
      />
    </Stack>
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
  turns,
  onChange,
}: {
  readonly grid: Item;
  readonly url: string;
  readonly turns: number;
  readonly onChange: Change;
}) {
  const [text, setText] = useTypedText(writeOptions(gridOptions(grid)), turns);
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

"use client";
import { memo, useRef, useState } from "react";
import styled from "styled-components";
import {
  isGrid,
  isQuestion,
  isSignaturePlace,
  type AnswerChange,
  type AnswerProblem,
  type Answers,
  type Placed,
} from "@/core/questionnaire";
import type { FillWords } from "@/i18n/translator";
import { Button } from "@/ui/kit/button";
import { Cluster, Soft, Stack } from "@/ui/kit/page";
import { QuestionField } from "./question-field";
import { aboveId, belowId, elementId } from "./steps";

interface ItemsProps {
  readonly partId: string;
  readonly placed: readonly Placed[];
  readonly answers: Answers;
  readonly problems: readonly AnswerProblem[];
  readonly say: (problem: AnswerProblem) => string;
  readonly words: FillWords;
  readonly change: (...changes: AnswerChange[]) => void;
  readonly onBlur: () => void;
  /** What stands above and below the question at a key, besides the question. */
  readonly around?: (key: string) => { readonly above?: React.ReactNode; readonly below?: React.ReactNode };
  /** Whoever fills it in is asked about themselves. */
  readonly own?: boolean;
  /** These are the rows of a grid. */
  readonly rows?: boolean;
}
/** The shown items of a section, groups and rows within groups included. */
export function Items(props: ItemsProps) {
  return (
    <Stack $gap="1.6rem">
      {props.placed
        .filter((p) => p.shown)
        .map((p) => (
          <OneItem key={p.key} {...props} item={p} />
        ))}
    </Stack>
  );
}

function OneItem({ item: placed, ...props }: ItemsProps & { readonly item: Placed }) {
  const { item, key } = placed;
  const problem = props.problems.find((p) => p.key === key);
  if (isSignaturePlace(item)) return null;
  if (item.type === "display") return <Para dir="auto">{item.text}</Para>;
  if (isQuestion(item)) {
    if (item.readOnly) return null;
    const around = props.around?.(key);
    const element = elementId(props.partId, key);
    return (
      <div id={element}>
        <div id={aboveId(element)}>{around?.above}</div>
        <Field
          partId={props.partId}
          answerKey={key}
          question={item}
          values={props.answers.values[key] ?? noValues}
          words={props.words}
          row={props.rows === true}
          own={props.own === true}
          onBlur={props.onBlur}
          problem={problem && props.say(problem)}
          onChange={(values) => props.change({ kind: "values", key, values })}
        />
        <div id={belowId(element)}>{around?.below}</div>
        {placed.children.length > 0 && (
          <Nested>
            <Items {...props} placed={placed.children} />
          </Nested>
        )}
      </div>
    );
  }
  if (item.repeats) return <Rows {...props} group={placed} problem={problem && props.say(problem)} />;
  return (
    <Group aria-label={item.text}>
      {item.text ? <GroupTitle>{item.text}</GroupTitle> : null}
      <Items {...props} rows={isGrid(item)} placed={placed.children} />
    </Group>
  );
}

const noValues: readonly never[] = [];
/**
 * Typing in one field leaves the others as they are. What the functions close over is the field's own place, which
 * never changes.
 */
const Field = memo(
  QuestionField,
  (a, b) =>
    a.question === b.question &&
    a.values === b.values &&
    a.problem === b.problem &&
    a.words === b.words &&
    a.row === b.row &&
    a.answerKey === b.answerKey &&
    a.partId === b.partId,
);

let made = 0;
const newRow = (): string => `${Date.now().toString(36)}${(made++).toString(36)}`.slice(-16);

function Rows({
  group,
  problem,
  ...props
}: Omit<ItemsProps, "placed"> & { readonly group: Placed; readonly problem: string | undefined }) {
  const [gone, setGone] = useState<readonly string[]>();
  const back = useRef<HTMLDivElement>(null);
  const add = useRef<HTMLDivElement>(null);
  const { words } = props;
  const what = group.item.text;
  const rows = props.answers.rows[group.key] ?? [];
  const set = (next: readonly string[]): void => props.change({ kind: "rows", key: group.key, rows: next });
  return (
    <Group aria-label={what} id={elementId(props.partId, group.key)}>
      <GroupTitle>{what}</GroupTitle>
      <Stack $gap="1rem">
        {group.children.map((row, index) => (
          <Row key={row.row} role="group" aria-label={words("row", { what, n: String(index + 1) })}>
            <Items {...props} placed={row.children} />
            {(group.children.length > 1 || !(group.item.type === "group" && group.item.required)) && (
              <div>
                <Button
                  weight="quiet"
                  aria-label={`${words("removeRow")}: ${words("row", { what, n: String(index + 1) })}`}
                  onPress={() => {
                    setGone(rows);
                    set(rows.filter((r) => r !== row.row));
                    // Its button is gone with it: the way back has the focus.
                    requestAnimationFrame(() => back.current?.querySelector("button")?.focus());
                  }}
                >
                  {words("removeRow")}
                </Button>
              </div>
            )}
          </Row>
        ))}
        {gone && gone.length > rows.length && (
          <Cluster role="status" ref={back}>
            <Soft>{words("removed")}</Soft>
            <Button
              weight="quiet"
              onPress={() => {
                set(gone);
                setGone(undefined);
                requestAnimationFrame(() => add.current?.querySelector("button")?.focus());
              }}
            >
              {words("putBack")}
            </Button>
          </Cluster>
        )}
        {problem && <Problem role="alert">{problem}</Problem>}
        <div ref={add}>
          <Button
            onPress={() => {
              setGone(undefined);
              set([...rows, newRow()]);
            }}
          >
            {words(rows.length === 0 ? "addRow" : "addAnother", { what })}
          </Button>
        </div>
      </Stack>
    </Group>
  );
}
const Para = styled.p`
  white-space: pre-wrap;
`;
const Nested = styled.div`
  padding-block-start: 1.2rem;
`;
const Group = styled.section`
  min-width: 0;
`;
const GroupTitle = styled.h2`
  font: 600 1.15rem/1.3 var(--serif);
  padding-block-end: 0.8rem;
`;
const Row = styled.div`
  border-inline-start: 3px solid var(--rule-strong);
  padding-inline-start: 1rem;
  display: grid;
  gap: 0.5rem;
`;
const Problem = styled.p`
  color: var(--madder);
  font-weight: 600;
`;

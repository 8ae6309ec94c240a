"use client";
import type { KeyboardEvent } from "react";
import styled from "styled-components";
import { isNarrative, rowWords, type ChartField, type Choice, type ReconcileLine, type RowValue } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import { Fold } from "@/ui/kit/ledger";
import { Pick } from "@/ui/kit/pick";
import { ChoiceRow } from "@/ui/kit/choice-row";
import { TextField } from "@/ui/kit/text-field";
import { Soft } from "@/ui/kit/page";
import { isTyping } from "@/ui/kit/shortcuts";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { PartLine } from "@/usecases/charting";

const keys: Readonly<Record<string, Choice>> = { k: "keep", t: "take", b: "both", w: "edit", p: "prefer" };
const keyOf = (choice: Choice): string => Object.keys(keys).find((key) => keys[key] === choice)!;

/** What a choice does on this line, in a word. */
function choiceWord(line: ReconcileLine, choice: Choice): string {
  if (line.status === "not-mentioned" || (line.status === "denied" && line.shape === "row"))
    return choice === "keep" ? "Still true" : "End it";
  if (choice === "keep" && line.status === "new") return "Leave";
  if (choice === "both" && isNarrative(line.field)) return "Add";
  return { keep: "Keep", take: "Take", both: "Both", edit: "Write", prefer: "As name they like" }[choice];
}
export const startText = (line: ReconcileLine): string | RowValue => line.incoming ?? line.onFile?.value ?? "";
export const valueText = (field: ChartField, value: string | RowValue | undefined): string =>
  typeof value === "object" ? rowWords(field, value) : (value ?? "");

export interface OneLineProps {
  readonly line: PartLine;
  readonly choice: Choice | undefined;
  readonly choose: (choice: Choice) => void;
  /** What stands there when it is written by hand. */
  readonly edited: string | RowValue;
  readonly edit: (value: string | RowValue) => void;
  readonly problem: string | undefined;
  /** Fields it may go to for this return alone; none where it has to stay. */
  readonly elsewhere: readonly ChartField[];
  readonly isElsewhere: boolean;
  /** @param field empty: where the plan sends it */
  readonly putElsewhere: (field: string) => void;
}
/** One field or row: since when it is on file, what is on file, what came in, and the decision. */
export function OneLine({
  line,
  choice,
  choose,
  edited,
  edit,
  problem,
  elsewhere,
  isElsewhere,
  putElsewhere,
}: OneLineProps) {
  const onKey = (event: KeyboardEvent): void => {
    const meant = keys[event.key];
    if (!meant || !line.choices.includes(meant) || event.ctrlKey || event.metaKey || event.altKey) return;
    if (isTyping(event.target)) return;
    event.preventDefault();
    event.stopPropagation();
    choose(meant);
  };
  const why = line.question === line.field.label ? "" : line.question;
  return (
    <Line id={`line-${line.id}`} $open={choice === undefined} onKeyDown={onKey}>
      <Since>{line.onFile ? <Moment at={line.onFile.dated.at} as="day" /> : <Fresh>new</Fresh>}</Since>
      <OnFile>
        <Named>
          <h2 title={why}>{line.field.label}</h2>
          {elsewhere.length > 0 && (
            <Fold open={isElsewhere}>
              <summary>Elsewhere</summary>
              <Pick
                small
                label="Goes to, this once"
                value={isElsewhere ? line.field.key : ""}
                options={[
                  { value: "", label: "where the plan sends it" },
                  ...elsewhere.map(({ key, label }) => ({ value: key, label })),
                ]}
                onChange={putElsewhere}
              />
            </Fold>
          )}
        </Named>
        {line.onFile ? (
          <Value value={line.onFile.value} field={line.field} struck={choice === "take"} />
        ) : (
          <Soft>Nothing on file</Soft>
        )}
      </OnFile>
      <CameIn>
        {line.incoming === undefined ? (
          <Soft>Not mentioned in “{line.question}”</Soft>
        ) : (
          <>
            {line.status === "denied" && <Soft as="div">{line.question}</Soft>}
            <Value value={line.incoming} field={line.field} struck={choice === "keep"} />
          </>
        )}
      </CameIn>
      <Decide data-row tabIndex={-1}>
        <ChoiceRow
          label={`Decision for ${line.field.label}`}
          choices={line.choices.map((value) => ({ value, label: choiceWord(line, value), shortcut: keyOf(value) }))}
          value={choice}
          onChange={choose}
          problem={problem}
        />
        {line.alike && <Soft as="p">Alike, not the same name. Keep both if they are two things.</Soft>}
        {line.onFile && line.field.identity && choice === "take" && (
          <Soft as="p">{identityWords[line.field.key] ?? "This changes who they are on file."}</Soft>
        )}
        {choice === "edit" && <Edit line={line} value={edited} onChange={edit} />}
      </Decide>
    </Line>
  );
}

const identityWords: Readonly<Record<string, string>> = {
  email: "Letters and codes go there from now on. They are told at the address on file.",
  phone: "Texts and codes go there from now on. They are told at the address on file.",
};

interface ValueProps {
  readonly value: string | RowValue;
  readonly field: ReconcileLine["field"];
  readonly struck: boolean;
}
function Value({ value, field, struck }: ValueProps) {
  const { locale } = useTimeFrame();
  const words = field.kind === "date" && typeof value === "string" ? dateWords(value, locale) : valueText(field, value);
  return (
    <Text dir="auto" $struck={struck}>
      {words}
    </Text>
  );
}
function Edit({ line, value, onChange }: { line: PartLine; value: string | RowValue; onChange: OneLineProps["edit"] }) {
  const { field } = line;
  if (typeof value === "string")
    return (
      <TextField
        label={<Soft>Write it as it should stand</Soft>}
        value={value}
        onChange={onChange}
        long={field.kind === "long-text"}
      />
    );
  return (
    <Columns>
      {(field.kind === "rows" ? field.columns : []).map((column) => (
        <TextField
          key={column.key}
          label={column.label}
          value={value[column.key] ?? ""}
          onChange={(text) => onChange({ ...value, [column.key]: text })}
        />
      ))}
    </Columns>
  );
}
const Line = styled.section<{ $open: boolean }>`
  display: grid;
  grid-template-columns: var(--margin-column) minmax(0, 1.1fr) minmax(0, 1fr) 20.5rem;
  border-block-end: 1px solid var(--rule);
  background: ${({ $open }) => ($open ? "var(--clay-wash)" : "none")};
  & > * {
    padding-block: 0.4rem;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  @media (max-width: 64rem) {
    grid-template-columns: var(--margin-column) minmax(0, 1fr) minmax(0, 1fr);
  }
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
    padding-block: 0.4rem;
    & > * {
      padding-block: 0.1rem;
    }
  }
`;
const Since = styled.div`
  color: var(--soft);
  font-size: var(--small);
  border-inline-end: 1px solid var(--rule-strong);
  @media (max-width: 64rem) {
    grid-row: span 2;
  }
  @media (max-width: 44rem) {
    border: 0;
  }
`;
const Fresh = styled.strong`
  color: var(--fern);
`;
/** The field, and how to let it go to another this once. */
const Named = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 0.75rem;
  & > details {
    font-size: var(--small);
  }
  & > details[open] {
    flex-basis: 100%;
  }
`;
const OnFile = styled.div`
  padding-inline: var(--inset) 0.9rem;
  & h2 {
    font-size: 1rem;
  }
  @media (max-width: 44rem) {
    padding-inline: 0;
  }
`;
/** Level with the value on file, under the field's name. */
const CameIn = styled.div`
  padding-inline-end: 0.9rem;
  align-self: end;
`;
const Decide = styled.div`
  align-self: center;
  outline: none;
  @media (max-width: 64rem) {
    grid-column: 2 / -1;
    padding-inline-start: var(--inset);
  }
  @media (max-width: 44rem) {
    grid-column: auto;
    padding: 0;
  }
`;
const Text = styled.span<{ $struck: boolean }>`
  white-space: pre-wrap;
  ${({ $struck }) => ($struck ? "text-decoration: line-through; color: var(--soft);" : "")}
`;
const Columns = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(8rem, 1fr));
  gap: 0.4rem 0.6rem;
  padding-block-start: 0.4rem;
`;

"use client";
import { Fragment, type ReactNode } from "react";
import styled from "styled-components";
import { rowWords, type ChartField, type Dated, type FieldState, type RowState } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import { plainLetters } from "@/core/shared";
import { Soft } from "@/ui/kit/page";
import { Moment, useTimeFrame } from "@/ui/kit/time";
import type { ChartView } from "@/usecases/charting";
import { Folio, type Folios } from "./folio";

type Section = ChartView["sections"][number];
type Field = Section["fields"][number];
const isFilled = (field: Field): boolean => ("rows" in field ? field.rows.length > 0 : field.state !== undefined);
/** The values that stand now, and those before. */
const datedOf = (field: Field): readonly Dated<unknown>[] =>
  "rows" in field ? field.rows.flatMap((row) => row.current ?? []) : [field.state?.current ?? []].flat();

export interface ChartBandProps {
  readonly section: Section;
  readonly folios: Folios;
  /** Postings that an earlier section said in full. */
  readonly told: ReadonlySet<string>;
  /** Words that are searched for; empty: all. */
  readonly search: string;
  /** What stands below its fields. */
  readonly children?: ReactNode;
}
/** The postings that a section's values came by. */
export const postingsIn = (section: Section): string[] => section.fields.flatMap(datedOf).map((dated) => dated.posting);

/** A section of the chart: its name and the postings its values came by in the margin, its fields two a line. */
export function ChartBand({ section, folios, told, search, children }: ChartBandProps) {
  const filled = section.fields.filter((field) => isFilled(field) && says(field, search));
  if (search !== "" && filled.length === 0) return null;
  const empty = section.fields.filter((field) => !isFilled(field)).map(({ field }) => field.label);
  return (
    <Band aria-label={section.title}>
      <Margin>
        <h2>{section.title}</h2>
        <Sources dated={filled.flatMap(datedOf)} folios={folios} told={told} />
      </Margin>
      <Two>
        {filled.map((field) => (
          <Cell key={field.field.key} $wide={isWide(field)}>
            <Label>{field.field.label}</Label>
            <Value dir="auto">
              {"rows" in field ? (
                <List field={field.field} rows={field.rows} />
              ) : (
                field.state && <Single field={field.field} state={field.state} />
              )}
            </Value>
            <Folio of={datedOf(field)} folios={folios} />
          </Cell>
        ))}
        {empty.length > 0 && search === "" && (
          <Cell $wide>
            <Label>None on file</Label>
            <Soft>{empty.join(", ")}</Soft>
            {children}
          </Cell>
        )}
        {empty.length === 0 && search === "" && children && (
          <Cell $wide>
            <span />
            <span />
            {children}
          </Cell>
        )}
      </Two>
    </Band>
  );
}
/** Whether a field, or anything that stood in it, has these words. */
function says(field: Field, search: string): boolean {
  if (search === "") return true;
  const held =
    "rows" in field
      ? field.rows.flatMap((row) => row.history.flatMap(({ value }) => Object.values(value)))
      : (field.state?.history ?? []).map(({ value }) => value);
  return [field.field.label, ...held].some((words) => plainLetters(words).includes(plainLetters(search)));
}
const mostShort = 44;
const isWide = (field: Field): boolean =>
  "rows" in field || (field.state?.current?.value.length ?? 0) > mostShort || (field.state?.history.length ?? 0) > 3;

/** The postings a section's values came by, each in full the first time. */
function Sources({
  dated,
  folios,
  told,
}: Pick<ChartBandProps, "folios" | "told"> & { dated: readonly Dated<unknown>[] }) {
  const first = new Map(dated.map((one) => [one.posting, one]));
  const lines = [...first].flatMap(([id, one]) => {
    const posting = folios.get(id);
    return posting ? [{ posting, one }] : [];
  });
  return (
    <ul>
      {lines
        .sort((a, b) => a.posting.number - b.posting.number)
        .map(({ posting, one }) => (
          <li key={posting.id}>
            <strong>{posting.number}</strong>
            {told.has(posting.id) ? null : `${one.source.kind === "answer" ? "their answers" : one.source.reason}, `}
            <Moment at={one.at} as="day" />
            {told.has(posting.id) ? null : `, ${one.by}`}
          </li>
        ))}
    </ul>
  );
}

function Single({ field, state }: { readonly field: ChartField; readonly state: FieldState }) {
  const { locale } = useTimeFrame();
  const words = (value: string): string => (field.kind === "date" ? dateWords(value, locale) : value);
  const past = state.history.filter((dated) => dated !== state.current);
  return (
    <>
      {state.current ? words(state.current.value) : <Soft>Nothing: what was posted was reversed</Soft>}
      <Past label={field.label} past={past} words={(dated) => words(dated.value)} />
    </>
  );
}
function List({ field, rows }: { readonly field: ChartField; readonly rows: readonly RowState[] }) {
  return rows.map((row, index) => (
    <Fragment key={row.row}>
      {index > 0 ? <Soft> · </Soft> : null}
      {row.current ? (
        rowWords(field, row.current.value)
      ) : (
        <Soft as="s">{rowWords(field, row.history[0]?.value ?? {})}</Soft>
      )}
      <Past
        label={`${field.label}: ${rowWords(field, row.history[0]?.value ?? {})}`}
        past={row.history.filter((dated) => dated !== row.current)}
        words={(dated) => (dated.ended ? "ended" : rowWords(field, dated.value))}
      />
    </Fragment>
  ));
}

interface PastProps<T> {
  readonly label: string;
  /** Newest first. */
  readonly past: readonly Dated<T>[];
  readonly words: (dated: Dated<T>) => string;
}
/**
 * What stood here before: the last one beside the value, all of them when it is opened, and at once where there is
 * room.
 */
function Past<T>({ label, past, words }: PastProps<T>): ReactNode {
  const last = past[0];
  if (!last) return null;
  const line = (dated: Dated<T>): ReactNode => (
    <>
      {dated.reversed ? <s>{words(dated)}</s> : words(dated)}{" "}
      <Soft>
        · <Moment at={dated.at} as="day" />, {dated.by}
        {dated.reversed ? ", reversed" : ""}
      </Soft>
    </>
  );
  return (
    <>
      <Was>
        <summary aria-label={`Earlier values of ${label}`}>
          was {words(last)}
          {past.length > 1 ? `, and ${past.length - 1} more` : ""}
        </summary>
        <ul>
          {past.map((dated, index) => (
            <li key={index}>{line(dated)}</li>
          ))}
        </ul>
      </Was>
      <Beside>
        {past.map((dated, index) => (
          <li key={index}>was {line(dated)}</li>
        ))}
      </Beside>
    </>
  );
}
const roomForPast = "(min-width: 90rem)";
const Band = styled.section`
  display: grid;
  grid-template-columns: var(--margin-column) minmax(0, 1fr);
  border-block-end: 1px solid var(--rule-strong);
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Margin = styled.div`
  padding-block: 0.4rem;
  padding-inline: 0 0.6rem;
  border-inline-end: 1px solid var(--rule-strong);
  color: var(--soft);
  font-size: var(--small);
  line-height: 1.3;
  & > h2 {
    color: var(--ink);
  }
  & li {
    padding-inline-start: 1.1rem;
    text-indent: -1.1rem;
  }
  & strong {
    display: inline-block;
    width: 1.1rem;
    text-indent: 0;
    color: var(--plum);
  }
  @media (max-width: 44rem) {
    border: 0;
  }
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  column-gap: 1.75rem;
  align-content: start;
  padding-inline-start: var(--inset);
  @media (max-width: 64rem) {
    grid-template-columns: minmax(0, 1fr);
  }
  @media (max-width: 44rem) {
    padding: 0;
  }
`;
const Cell = styled.div<{ $wide: boolean }>`
  display: grid;
  grid-template-columns: 9rem minmax(0, 1fr) auto;
  column-gap: 0.5rem;
  align-items: baseline;
  padding-block: 0.1rem;
  border-block-end: 1px solid var(--rule);
  ${({ $wide }) => ($wide ? "grid-column: 1 / -1;" : "")}
  & > details[open] {
    grid-column: 1 / -1;
    padding-block: 0.4rem;
  }
`;
const Label = styled.span`
  color: var(--soft);
  font-size: var(--small);
  line-height: 1.25;
`;
const Value = styled.div`
  white-space: pre-wrap;
  overflow-wrap: anywhere;
`;
const Was = styled.details`
  display: inline-block;
  margin-inline-start: 0.5rem;
  font-size: var(--small);
  & > summary {
    cursor: pointer;
    color: var(--clay);
    list-style: none;
    min-height: 1.5rem;
  }
  &[open] {
    display: block;
    margin: 0;
  }
  & > ul {
    padding-block-end: 0.3rem;
  }
  @media ${roomForPast} {
    display: none;
  }
`;
const Beside = styled.ul`
  display: none;
  font-size: var(--small);
  color: var(--clay);
  @media ${roomForPast} {
    display: block;
  }
`;

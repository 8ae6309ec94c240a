"use client";
import type { ReactNode } from "react";
import styled from "styled-components";
import { Link } from "./link";

/** Says something about the whole page in one line, under its head. */
export const Strip = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem 1.6rem;
  align-items: baseline;
  padding-block: 0.4rem;
  border-block-end: 1px solid var(--rule);
  color: var(--soft);
`;
/** What must not be overlooked, by a mark, a weight and a colour. */
export const Alarm = styled.strong`
  color: var(--madder);
  &::before {
    content: "▲ " / "";
    font-size: 0.85em;
  }
`;
/** Whom or what a line of a list is about. */
export const Name = styled(Link)`
  font: 600 1.06rem/1.3 var(--serif);
  color: var(--ink);
  text-decoration-color: var(--rule-strong);
`;

/** Over the part of a page that is about one questionnaire. */
export const PartHead = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 1.25rem;
  align-items: baseline;
  padding-block: 0.7rem 0.25rem;
  border-block-end: 1px solid var(--rule-strong);
  & > h2 {
    flex: 1 1 auto;
  }
`;

const Line = styled.li<{ $tone: "plain" | "attention" | undefined }>`
  display: grid;
  /* A list whose lines differ in what can be done says how wide that is, so that columns stay columns. */
  grid-template-columns: var(--margin-column) minmax(0, 1fr) minmax(var(--action-column, 0), auto);
  align-items: center;
  & > :nth-child(3) {
    justify-self: end;
  }
  border-block-end: 1px solid var(--rule);
  background: ${({ $tone }) => ($tone === "attention" ? "var(--clay-wash)" : "none")};
  @media (max-width: 44rem) {
    grid-template-columns: minmax(0, 1fr) auto;
    row-gap: 0.1rem;
    padding-block: 0.4rem;
  }
`;
const LineMargin = styled.div`
  align-self: stretch;
  display: flex;
  flex-direction: column;
  justify-content: center;
  min-height: 2.1rem;
  padding-block: 0.15rem;
  padding-inline: 0 0.6rem;
  color: var(--soft);
  font-size: var(--small);
  line-height: 1.35;
  border-inline-end: 1px solid var(--rule-strong);
  @media (max-width: 44rem) {
    grid-column: 1 / -1;
    flex-direction: row;
    justify-content: start;
    gap: 0.6rem;
    min-height: 0;
    border: 0;
  }
`;
const LineMain = styled.div`
  padding: 0.2rem var(--inset);
  min-width: 0;
  overflow-wrap: anywhere;
  @media (max-width: 44rem) {
    padding-inline: 0 0.6rem;
  }
`;
export interface ListLineProps {
  /** When, in what state. */
  readonly margin: ReactNode;
  readonly children: ReactNode;
  /** What can be done with it. */
  readonly action?: ReactNode;
  readonly tone?: "plain" | "attention";
}
/** One line of a list of people, visits, questionnaires or packets: as low as its text allows. */
export function ListLine({ margin, children, action, tone }: ListLineProps) {
  return (
    <Line $tone={tone}>
      <LineMargin>{margin}</LineMargin>
      <LineMain>{children}</LineMain>
      {action}
    </Line>
  );
}

/** What a line is about and what there is to know of it, in columns that are the same on every line. */
export const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.25fr);
  gap: 0.1rem 1.25rem;
  align-items: baseline;
  @media (max-width: 64rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

/** Questions and answers, a line each. */
export const Answers = styled.dl`
  & > div {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr);
    gap: 0 1.1rem;
    align-items: baseline;
    padding-block: 0.2rem;
    border-block-end: 1px solid var(--rule);
  }
  & > div:last-child {
    border-block-end: 0;
  }
  & dt {
    color: var(--soft);
    font-size: var(--small);
  }
  & dd {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
  @media (max-width: 44rem) {
    & > div {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;

/** Something rarely wanted: a word that opens it in place. */
export const Fold = styled.details`
  & > summary {
    cursor: pointer;
    color: var(--plum);
    min-height: 1.5rem;
    width: fit-content;
  }
  &[open] > summary {
    margin-block-end: 0.5rem;
  }
`;
/** A rare action of a line: seen when the line is pointed at or holds the focus, and always where nothing can hover. */
export const onLine = `
  @media (hover: hover) {
    opacity: 0;
    *:hover > &,
    *:focus-within > &,
    &:focus-within {
      opacity: 1;
    }
  }
`;

/** Numbers in columns, a hairline under each row. */
export const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  & th,
  & td {
    text-align: start;
    vertical-align: baseline;
    font-weight: 400;
    padding: 0.15rem 0.75rem 0.15rem 0;
    border-block-end: 1px solid var(--rule);
    font-variant-numeric: tabular-nums;
  }
  & thead th {
    color: var(--soft);
    font-size: var(--small);
  }
`;
const WideFrame = styled.div`
  overflow-x: auto;
  max-inline-size: 100%;
`;
/** A table that is wider than a small screen is moved across by itself, also by keys; the page is not. */
export function Wide({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <WideFrame role="region" aria-label={label} tabIndex={0}>
      {children}
    </WideFrame>
  );
}

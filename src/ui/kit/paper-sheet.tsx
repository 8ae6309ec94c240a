"use client";
import type { ReactNode } from "react";
import styled from "styled-components";

/** A sheet to read or print: one column, nothing cut off. */
export const Sheet = styled.div`
  display: grid;
  gap: 0.9rem;
  max-width: 48rem;
  padding-block: 1rem;
  & p {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
`;
/** What is asked or named, with what is said of it. */
export function Facts({ facts }: { readonly facts: readonly (readonly [name: string, value: ReactNode])[] }) {
  return (
    <List>
      {facts.map(([name, value], index) => (
        <div key={index}>
          <dt dir="auto">{name}</dt>
          <dd dir="auto">{value}</dd>
        </div>
      ))}
    </List>
  );
}
const List = styled.dl`
  & > div {
    display: grid;
    grid-template-columns: minmax(0, 11fr) minmax(0, 9fr);
    gap: 0.2rem 1.2rem;
    padding-block: 0.35rem;
    border-block-end: 1px solid var(--rule);
    break-inside: avoid;
  }
  & dt {
    color: var(--soft);
  }
  & dd {
    font-weight: 600;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
  @media (max-width: 30rem) {
    & > div {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;

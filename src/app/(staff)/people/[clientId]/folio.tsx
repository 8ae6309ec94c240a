"use client";
import styled from "styled-components";
import type { Dated } from "@/core/chart";
import type { ChartView } from "@/usecases/charting";

export type Posting = ChartView["postings"][number];
/** Postings by id, each with its number in the client's ledger, the first being 1. */
export type Folios = ReadonlyMap<string, Posting & { readonly number: number }>;

/** @param postings newest first. */
export const folios = (postings: readonly Posting[]): Folios =>
  new Map(postings.map((posting, index) => [posting.id, { ...posting, number: postings.length - index }]));

/** Where a posting can be looked at: what came back, or its line in the list of postings. */
const hrefOf = (posting: Posting): string =>
  posting.packetId ? `/returns/${posting.packetId}` : `#posting-${posting.id}`;

/** The small number of the posting that brought a value, as a bookkeeper's posting reference. */
export function Folio({ of, folios: known }: { readonly of: readonly Dated<unknown>[]; readonly folios: Folios }) {
  const postings = [...new Set(of.map((dated) => dated.posting))].flatMap((id) => known.get(id) ?? []);
  return (
    <Numbers>
      {postings
        .sort((a, b) => a.number - b.number)
        .map((posting) => (
          <Number key={posting.id} href={hrefOf(posting)} aria-label={`Posting ${posting.number}`}>
            {posting.number}
          </Number>
        ))}
    </Numbers>
  );
}
const Numbers = styled.span`
  display: flex;
  justify-content: end;
`;
const Number = styled.a`
  min-width: 1.5rem;
  min-height: 1.5rem;
  display: inline-grid;
  place-items: center;
  font: 600 0.875rem/1 var(--sans);
  font-variant-numeric: tabular-nums;
  text-decoration: none;
  &:hover {
    text-decoration: underline;
  }
`;

"use client";
import { memo } from "react";
import styled from "styled-components";
import type { Instant } from "@/core/shared";
import { SectionTitle, Soft, Spoken } from "@/ui/kit/page";
import type { ItemSeries } from "@/usecases/measures";

const [width, height] = [132, 30];
/** Each item of a score over the last returns, all on the same scale: which of them moved is seen at once. */
export const ItemPlots = memo(function ItemPlots({
  items,
  dayOf,
}: {
  readonly items: readonly ItemSeries[];
  readonly dayOf: (at: Instant) => string;
}) {
  if (items.length === 0 || items[0]!.numbers.length < 2) return null;
  const ends = items[0]!.numbers;
  return (
    <section>
      <SectionTitle>
        Item by item{" "}
        <Soft>
          {dayOf(ends[0]!.at)} to {dayOf(ends.at(-1)!.at)}
        </Soft>
      </SectionTitle>
      <Grid>
        {items.map((item) => (
          <li key={item.linkId}>
            <span dir="auto">{item.text}</span>
            <Numbers aria-hidden>
              {item.numbers.at(-2)?.number ?? "–"} → <strong>{item.numbers.at(-1)?.number ?? "–"}</strong>
            </Numbers>
            <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden>
              <line x1="0" x2={width} y1={height - 2} y2={height - 2} stroke="var(--rule-strong)" />
              {pieces(item).map((piece, index) => (
                <polyline key={index} points={piece} fill="none" stroke="var(--plum)" strokeWidth="2" />
              ))}
              {item.numbers.map(({ at, number }, index) =>
                number === undefined ? null : (
                  <circle key={at} cx={across(index, item)} cy={down(number, item)} r="2.2" fill="var(--plum)" />
                ),
              )}
            </svg>
            <Spoken>
              {item.numbers.map(({ at, number }) => `${dayOf(at)}: ${number ?? "not answered"}`).join(", ")}
            </Spoken>
          </li>
        ))}
      </Grid>
    </section>
  );
});
const across = (index: number, { numbers }: ItemSeries): number =>
  4 + (index / Math.max(1, numbers.length - 1)) * (width - 8);
const down = (number: number, { least, most }: ItemSeries): number =>
  height - 4 - ((number - least) / Math.max(1e-9, most - least)) * (height - 8);
/** Where an answer is missing the line is broken. */
function pieces(item: ItemSeries): string[] {
  const all: string[][] = [[]];
  item.numbers.forEach(({ number }, index) => {
    if (number === undefined) all.push([]);
    else all.at(-1)!.push(`${across(index, item)},${down(number, item)}`);
  });
  return all.filter((piece) => piece.length > 1).map((piece) => piece.join(" "));
}
const Grid = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 26rem), 1fr));
  gap: 0 1.5rem;
  & > li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 0 0.75rem;
    align-items: center;
    padding-block: 0.2rem;
    border-block-end: 1px solid var(--rule);
    line-height: 1.3;
  }
`;
const Numbers = styled.span`
  color: var(--soft);
  font-variant-numeric: tabular-nums;
`;

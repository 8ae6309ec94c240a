"use client";
import type { CSSProperties } from "react";
import styled from "styled-components";

const Line = styled.div`
  height: 6px;
  border-radius: var(--corner);
  background:
    linear-gradient(var(--fern), var(--fern)) no-repeat left / var(--done) 100%,
    var(--rule);
  &:dir(rtl) {
    background-position: right;
  }
`;
/** How far something has come. Words that say so stand beside it. */
export function Progress({
  label,
  done,
  all,
}: {
  readonly label: string;
  readonly done: number;
  readonly all: number;
}) {
  return (
    <Line
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={all}
      aria-valuenow={done}
      style={{ "--done": `${(done / Math.max(1, all)) * 100}%` } as CSSProperties}
    />
  );
}

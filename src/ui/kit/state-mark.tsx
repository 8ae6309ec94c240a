"use client";
import styled from "styled-components";
import type { PacketMark } from "@/core/packet";

const tone: Record<PacketMark, string> = {
  none: "--soft",
  ready: "--soft",
  sent: "--plum",
  opened: "--plum",
  "under-way": "--plum",
  returned: "--clay",
  "sent-back": "--clay",
  settled: "--fern",
  lapsed: "--madder",
  withdrawn: "--soft",
  locked: "--madder",
  unreached: "--madder",
};
// A ring that fills as the packet comes nearer to the chart; a notch when it went back, a bar when it stopped.
const fill: Partial<Record<PacketMark, string>> = {
  sent: "M8 6.2a1.8 1.8 0 1 0 0 3.6a1.8 1.8 0 1 0 0-3.6Z",
  opened: "M8 8V3a5 5 0 0 1 5 5Z",
  "under-way": "M8 3a5 5 0 0 1 0 10Z",
  returned: "M8 3a5 5 0 1 1-5 5h5Z",
  settled: "M8 3a5 5 0 1 0 0 10a5 5 0 1 0 0-10Z",
  "sent-back": "M8 3a5 5 0 1 0 5 5l-5 0Z",
};
export function StateMark({ mark }: { readonly mark: PacketMark }) {
  return (
    <svg
      width="16"
      height="16"
      viewBox="0 0 16 16"
      aria-hidden="true"
      style={{ color: `var(${tone[mark]})`, flex: "none" }}
    >
      <circle
        cx="8"
        cy="8"
        r="6.6"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.5"
        strokeDasharray={mark === "none" ? "2.2 2" : undefined}
      />
      {fill[mark] ? <path d={fill[mark]} fill="currentColor" /> : null}
      {mark === "lapsed" || mark === "withdrawn" || mark === "locked" || mark === "unreached" ? (
        <path d="M3.4 12.6L12.6 3.4" stroke="currentColor" strokeWidth="1.8" />
      ) : null}
    </svg>
  );
}
const Wrap = styled.span<{ $tone: string }>`
  display: inline-flex;
  align-items: baseline;
  gap: 0.45rem;
  color: var(${({ $tone }) => $tone});
  font-weight: 600;
  & > svg {
    position: relative;
    top: 0.15em;
  }
`;
/** A state as a mark and a word, never colour alone. */
export function StateWords({ mark, words }: { readonly mark: PacketMark; readonly words: string }) {
  return (
    <Wrap $tone={tone[mark]}>
      <StateMark mark={mark} />
      <span>{words}</span>
    </Wrap>
  );
}

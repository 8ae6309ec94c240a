"use client";
import type { ReactNode } from "react";
import styled from "styled-components";

type Tone = "problem" | "attention" | "settled" | "plain";
const colour = { problem: "madder", attention: "clay", settled: "fern", plain: "plum" } as const;
const Box = styled.div<{ $tone: Tone }>`
  border-inline-start: 4px solid var(--${({ $tone }) => colour[$tone]});
  background: var(--${({ $tone }) => colour[$tone]}-wash);
  color: var(--ink);
  padding: var(--row) 1rem;
  border-radius: var(--corner);
  overflow-wrap: anywhere;
  & > strong {
    color: var(--${({ $tone }) => colour[$tone]});
  }
`;
/** The one way to say something about the page as a whole. Problems are announced at once. */
export function Notice({ tone = "plain", children }: { readonly tone?: Tone; readonly children: ReactNode }) {
  return (
    <Box $tone={tone} role={tone === "problem" ? "alert" : "status"}>
      {children}
    </Box>
  );
}

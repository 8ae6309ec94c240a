"use client";
import styled from "styled-components";
import { Notice } from "@/ui/kit/notice";

export interface JumpTo {
  readonly key: string;
  readonly label: string;
  readonly go: () => void;
}
/** What is missing or does not fit, each with the way to it. */
export function JumpList({ title, list }: { readonly title: string; readonly list: readonly JumpTo[] }) {
  return (
    <Notice tone="problem">
      <strong>{title}</strong>
      <ul>
        {list.map(({ key, label, go }) => (
          <li key={key}>
            <Jump type="button" onClick={go}>
              {label}
            </Jump>
          </li>
        ))}
      </ul>
    </Notice>
  );
}
const Jump = styled.button`
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0.35rem 0;
  min-height: 1.5rem;
  text-align: start;
  text-decoration: underline;
  text-underline-offset: 0.2em;
  cursor: pointer;
`;

"use client";
import type { ReactNode } from "react";
import { FieldError } from "react-aria-components/FieldError";
import { Label } from "react-aria-components/Label";
import { Text } from "react-aria-components/Text";
import styled, { css } from "styled-components";

export const field = css`
  display: flex;
  flex-direction: column;
  gap: 0.35rem;
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
`;
export const box = css`
  width: 100%;
  min-height: var(--field);
  padding: var(--field-pad);
  font: inherit;
  color: var(--ink);
  background: var(--leaf);
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  &[data-invalid] {
    border-color: var(--madder);
  }
  &::placeholder {
    color: var(--soft);
  }
`;
export const LabelText = styled(Label)`
  font-weight: 600;
  overflow-wrap: anywhere;
`;
const Help = styled(Text)`
  color: var(--soft);
  font-size: 0.94em;
`;
export const Problem = styled(FieldError)`
  color: var(--madder);
  font-size: 0.94em;
  font-weight: 600;
  &::before {
    content: "▲ ";
    /* A mark for the eye; the words say it. */
    content: "▲ " / "";
    font-size: 0.8em;
  }
`;
/** What every field of the form kit can say about itself. */
export interface Common {
  readonly label: ReactNode;
  readonly help?: string | undefined;
  readonly problem?: string | undefined;
  readonly required?: boolean | undefined;
  readonly id?: string | undefined;
  /** Ids of what is said about it elsewhere on the page. */
  readonly describedBy?: string | undefined;
  /** Word put after the label of a field that may be left empty. */
  readonly optional?: string | undefined;
}
export const LabelWords = ({ label, optional }: Pick<Common, "label" | "optional">) => (
  <>
    {label}
    {optional ? <OptionalMark> {optional}</OptionalMark> : null}
  </>
);
const OptionalMark = styled.span`
  color: var(--soft);
  font-weight: 400;
`;
export const helpOf = (help: string | undefined) => (help ? <Help slot="description">{help}</Help> : null);

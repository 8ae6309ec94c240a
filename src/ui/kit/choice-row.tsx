"use client";
import { Radio, RadioGroup } from "react-aria-components/RadioGroup";
import styled from "styled-components";

export interface RowChoice<Value extends string> {
  readonly value: Value;
  readonly label: string;
  /** The key that chooses it while the line holds the focus. */
  readonly shortcut?: string;
}
export interface ChoiceRowProps<Value extends string> {
  /** What is chosen, said to who cannot see the line it stands on. */
  readonly label: string;
  readonly choices: readonly RowChoice<Value>[];
  /** Undefined while nothing is chosen. */
  readonly value: Value | undefined;
  readonly onChange: (value: Value) => void;
  readonly problem?: string | undefined;
}
/** The choices of one line in one row: one press each, or their key. */
export function ChoiceRow<Value extends string>({ label, choices, value, onChange, problem }: ChoiceRowProps<Value>) {
  return (
    <RadioGroup
      aria-label={label}
      value={value ?? null}
      onChange={(chosen) => onChange(chosen as Value)}
      orientation="horizontal"
      isInvalid={problem !== undefined}
    >
      <Row>
        {choices.map((choice) => (
          <Choice key={choice.value} value={choice.value} data-shortcut={choice.shortcut}>
            {choice.shortcut ? <kbd aria-hidden="true">{choice.shortcut}</kbd> : null}
            <span>{choice.label}</span>
          </Choice>
        ))}
      </Row>
      {problem ? <Problem role="alert">{problem}</Problem> : null}
    </RadioGroup>
  );
}
const Row = styled.div`
  display: inline-flex;
  flex-wrap: wrap;
  background: var(--leaf);
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  overflow: hidden;
`;
const Choice = styled(Radio)`
  display: flex;
  align-items: center;
  gap: 0.4rem;
  min-height: 2rem;
  padding: 0.2rem 0.6rem;
  font-size: var(--small);
  white-space: nowrap;
  cursor: pointer;
  border-inline-start: 1px solid var(--rule);
  margin-inline-start: -1px;
  & > kbd {
    font: 600 0.78rem/1.3 var(--sans);
    padding: 0 0.3em;
    color: var(--soft);
    background: var(--leaf);
    border: 1px solid var(--rule);
    border-radius: 3px;
  }
  &[data-hovered] {
    background: var(--plum-wash);
  }
  &[data-selected] {
    background: var(--plum);
    color: var(--on-plum);
    font-weight: 600;
    forced-color-adjust: none;
  }
  &[data-selected] > kbd {
    color: inherit;
    background: none;
    border-color: currentColor;
  }
  &[data-focus-visible] {
    outline-offset: -2px;
  }
`;
const Problem = styled.p`
  color: var(--madder);
  font-size: var(--small);
  font-weight: 600;
`;

"use client";
import type { ReactNode } from "react";
import { Checkbox as AriaCheckbox } from "react-aria-components/Checkbox";
import { CheckboxGroup as AriaCheckboxGroup } from "react-aria-components/CheckboxGroup";
import { Radio as AriaRadio, RadioGroup as AriaRadioGroup } from "react-aria-components/RadioGroup";
import styled, { css } from "styled-components";
import { field, helpOf, LabelText, LabelWords, Problem, type Common } from "./field-parts";
import { useProblem } from "./field-problems";

const choiceRow = css`
  display: flex;
  align-items: flex-start;
  gap: 0.75rem;
  min-height: var(--field);
  padding: var(--field-pad);
  cursor: pointer;
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  background: var(--leaf);
  line-height: 1.45;
  &[data-selected] {
    border-color: var(--plum);
    background: var(--plum-wash);
    box-shadow: inset 0 0 0 1px var(--plum);
  }
  @media (forced-colors: active) {
    &[data-selected] {
      border-color: Highlight;
      outline: 2px solid Highlight;
      outline-offset: -4px;
    }
    &[data-focus-visible] {
      outline: 3px solid CanvasText;
      outline-offset: 2px;
    }
  }
  &[data-invalid] {
    border-color: var(--madder);
  }
  &[data-disabled] {
    opacity: 0.6;
    cursor: not-allowed;
  }
`;
const Dot = styled.span`
  flex: none;
  width: 1.15rem;
  height: 1.15rem;
  margin-block-start: 0.15rem;
  border: 2px solid var(--rule-strong);
  border-radius: 50%;
  background: var(--leaf);
  position: relative;
  [data-selected] > & {
    border-color: var(--plum);
  }
  /* A border, not a shadow that fills its box, which WebKit leaves out; and it stays where colours are forced. */
  [data-selected] > &::after {
    content: "";
    position: absolute;
    inset: 0.14rem;
    border: 0.32rem solid var(--plum);
    border-radius: 50%;
  }
`;
const Tick = styled.span`
  flex: none;
  width: 1.15rem;
  height: 1.15rem;
  margin-block-start: 0.15rem;
  border: 2px solid var(--rule-strong);
  background: var(--leaf);
  border-radius: var(--corner);
  position: relative;
  [data-selected] > & {
    border-color: var(--plum);
    background: var(--plum);
  }
  [data-selected] > &::after {
    content: "";
    position: absolute;
    inset-inline-start: 0.27rem;
    top: 0.02rem;
    width: 0.32rem;
    height: 0.6rem;
    border: solid var(--on-plum);
    border-width: 0 2px 2px 0;
    transform: rotate(42deg);
  }
`;
const Options = styled.div<{ $inline: boolean }>`
  display: ${({ $inline }) => ($inline ? "grid" : "flex")};
  flex-direction: column;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  gap: 0.5rem;
`;
const StyledRadioGroup = styled(AriaRadioGroup)`
  ${field} gap: 0.5rem;
`;
const StyledRadio = styled(AriaRadio)`
  ${choiceRow}
`;
const StyledStop = styled(AriaRadio)`
  ${choiceRow} justify-content: center;
  padding: 0.45rem 0.25rem;
  font-variant-numeric: tabular-nums;
`;
const WideStops = styled.div`
  display: grid;
  grid-auto-flow: row;
  grid-template-columns: repeat(auto-fit, minmax(min(6.5rem, 100%), 1fr));
  gap: 0.35rem;
`;
const Stops = styled.div`
  display: grid;
  grid-auto-flow: row;
  grid-template-columns: repeat(auto-fit, minmax(2.75rem, 1fr));
  gap: 0.35rem;
`;

export interface Option {
  readonly value: string;
  readonly label: string;
}
export interface RadioGroupProps extends Common {
  readonly options: readonly Option[];
  /** The chosen option's value; the empty text for none. */
  readonly value?: string;
  readonly defaultValue?: string;
  readonly onChange?: (value: string) => void;
  readonly onBlur?: () => void;
  readonly name?: string;
  readonly inline?: boolean;
  /** Many short options in a row that wraps; `wide` for options of some words, as in the rows of a grid. */
  readonly stops?: boolean | "wide";
}
export function RadioGroup({
  label,
  optional,
  help,
  problem: own,
  required,
  options,
  value,
  defaultValue,
  onChange,
  onBlur,
  name,
  inline = false,
  stops = false,
  id,
  describedBy,
}: RadioGroupProps) {
  const problem = useProblem(own, name);
  const given = {
    // Null is no choice. An empty text is taken for one, and then no option can be reached by Tab.
    ...(value === undefined ? {} : { value: value === "" ? null : value }),
    ...(defaultValue === undefined || defaultValue === "" ? {} : { defaultValue }),
    ...(describedBy ? { "aria-describedby": describedBy } : {}),
    ...(onChange ? { onChange } : {}),
    ...(onBlur ? { onBlur } : {}),
    ...(name ? { name } : {}),
    ...(id ? { id } : {}),
  };
  const rowHere = () => {
    if (stops === "wide") return WideStops;
    if (stops) return Stops;
    return undefined;
  };
  return (
    <StyledRadioGroup
      {...given}
      orientation={inline || stops ? "horizontal" : "vertical"}
      isRequired={required ?? false}
      isInvalid={problem !== undefined}
      validationBehavior="aria"
    >
      <LabelText elementType="span">
        <LabelWords label={label} optional={optional} />
      </LabelText>
      {helpOf(help)}
      <Options as={rowHere()} $inline={inline}>
        {options.map((option) =>
          stops ? (
            <StyledStop key={option.value} value={option.value}>
              {option.label}
            </StyledStop>
          ) : (
            <StyledRadio key={option.value} value={option.value}>
              <Dot aria-hidden="true" />
              <span dir="auto">{option.label}</span>
            </StyledRadio>
          ),
        )}
      </Options>
      <Problem>{problem}</Problem>
    </StyledRadioGroup>
  );
}

const StyledCheckboxGroup = styled(AriaCheckboxGroup)`
  ${field} gap: 0.5rem;
`;
const StyledCheckbox = styled(AriaCheckbox)`
  ${choiceRow}
`;
export interface CheckboxGroupProps extends Common {
  readonly options: readonly (Option & { readonly note?: string })[];
  readonly value?: string[];
  readonly defaultValue?: string[];
  readonly onChange?: (value: string[]) => void;
  readonly onBlur?: () => void;
  readonly name?: string;
  readonly disabled?: boolean;
}
export function CheckboxGroup({
  label,
  optional,
  help,
  problem: own,
  required,
  disabled = false,
  options,
  value,
  defaultValue,
  onChange,
  onBlur,
  name,
  id,
  describedBy,
}: CheckboxGroupProps) {
  const problem = useProblem(own, name);
  const given = {
    ...(describedBy ? { "aria-describedby": describedBy } : {}),
    ...(value === undefined ? {} : { value }),
    ...(defaultValue === undefined ? {} : { defaultValue }),
    ...(onChange ? { onChange } : {}),
    ...(onBlur ? { onBlur } : {}),
    ...(name ? { name } : {}),
    ...(id ? { id } : {}),
  };
  return (
    <StyledCheckboxGroup
      {...given}
      isDisabled={disabled}
      isRequired={required ?? false}
      isInvalid={problem !== undefined}
      validationBehavior="aria"
    >
      <LabelText elementType="span">
        <LabelWords label={label} optional={optional} />
      </LabelText>
      {helpOf(help)}
      <Options $inline={false}>
        {options.map((option) => (
          <StyledCheckbox key={option.value} value={option.value}>
            <Tick aria-hidden="true" />
            <span dir="auto">
              {option.label}
              {option.note ? <Note>{option.note}</Note> : null}
            </span>
          </StyledCheckbox>
        ))}
      </Options>
      <Problem>{problem}</Problem>
    </StyledCheckboxGroup>
  );
}
const Note = styled.span`
  display: block;
  color: var(--soft);
  font-size: 0.94em;
`;

export function Checkbox({
  label,
  isSelected,
  onChange,
  isDisabled = false,
}: {
  readonly label: ReactNode;
  readonly isSelected: boolean;
  readonly onChange: (on: boolean) => void;
  readonly isDisabled?: boolean;
}) {
  return (
    <BareCheckbox isSelected={isSelected} onChange={onChange} isDisabled={isDisabled}>
      <Tick aria-hidden="true" />
      <span>{label}</span>
    </BareCheckbox>
  );
}
const BareCheckbox = styled(AriaCheckbox)`
  display: flex;
  gap: 0.75rem;
  align-items: flex-start;
  cursor: pointer;
`;

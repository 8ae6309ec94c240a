"use client";
import { createContext, use, type ReactNode } from "react";
import { Checkbox as AriaCheckbox } from "react-aria-components/Checkbox";
import { CheckboxGroup as AriaCheckboxGroup } from "react-aria-components/CheckboxGroup";
import { FieldError, Text } from "react-aria-components/TextField";
import { Radio as AriaRadio, RadioGroup as AriaRadioGroup } from "react-aria-components/RadioGroup";
import { Input, Label, TextArea, TextField as AriaTextField } from "react-aria-components/TextField";
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
    font-size: 0.8em;
  }
`;
const StyledTextField = styled(AriaTextField)`
  ${field}
`;
const Line = styled(Input)`
  ${box}
`;
const Area = styled(TextArea)`
  ${box} min-height: var(--area);
  resize: vertical;
  line-height: 1.5;
  field-sizing: content;
`;

/**
 * Problems by field name, given by the form around. They stay until the form is sent again: a message that went away on
 * leaving the field would move the button from under the finger that is pressing it.
 */
export const FieldProblems = createContext<Readonly<Record<string, string>>>({});
const useProblem = (own: string | undefined, name: string | undefined): string | undefined => {
  const all = use(FieldProblems);
  return own ?? (name === undefined ? undefined : all[name]);
};

/** What every field of the form kit can say about itself. */
export interface Common {
  readonly label: ReactNode;
  readonly help?: string | undefined;
  readonly problem?: string | undefined;
  readonly required?: boolean | undefined;
  readonly id?: string | undefined;
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

export interface TextFieldProps extends Common {
  readonly name?: string;
  readonly value?: string;
  readonly defaultValue?: string;
  readonly onChange?: (value: string) => void;
  readonly onBlur?: () => void;
  readonly type?: "text" | "email" | "tel" | "password" | "url" | "date" | "time";
  readonly inputMode?: "numeric" | "decimal" | "tel" | "email" | undefined;
  readonly autoComplete?: string;
  readonly long?: boolean;
  /** The label is read out but not shown. */
  readonly bare?: boolean;
  readonly lang?: string;
  readonly placeholder?: string | undefined;
  readonly maxLength?: number | undefined;
  readonly autoFocus?: boolean;
  readonly dir?: "auto" | "ltr" | "rtl";
}
export function TextField({
  label,
  optional,
  help,
  problem: own,
  required,
  long,
  inputMode,
  id,
  dir: asked = "auto",
  lang,
  bare = false,
  placeholder,
  value,
  defaultValue,
  onChange,
  onBlur,
  name,
  type,
  autoComplete,
  maxLength,
  autoFocus,
}: TextFieldProps) {
  const problem = useProblem(own, name);
  // An empty field runs as its page does; what is written in it runs as it is written.
  const dir = asked === "auto" && value === "" ? undefined : asked;
  const given = {
    ...(value === undefined ? {} : { value }),
    ...(defaultValue === undefined ? {} : { defaultValue }),
    ...(onChange ? { onChange } : {}),
    ...(onBlur ? { onBlur } : {}),
    ...(name ? { name } : {}),
    ...(autoComplete ? { autoComplete } : {}),
    ...(maxLength === undefined ? {} : { maxLength }),
    ...(autoFocus ? { autoFocus } : {}),
    ...(id ? { id } : {}),
  };
  return (
    <StyledTextField
      {...given}
      {...(bare ? { "aria-label": String(label) } : {})}
      type={type ?? "text"}
      isInvalid={problem !== undefined}
      isRequired={required ?? false}
      validationBehavior="aria"
    >
      {bare ? null : (
        <LabelText>
          <LabelWords label={label} optional={optional} />
        </LabelText>
      )}
      {helpOf(help)}
      {long ? (
        <Area dir={dir} lang={lang} {...(placeholder === undefined ? {} : { placeholder })} />
      ) : (
        <Line
          dir={dir}
          lang={lang}
          {...(placeholder === undefined ? {} : { placeholder })}
          {...(inputMode ? { inputMode } : {})}
        />
      )}
      <Problem>{problem}</Problem>
    </StyledTextField>
  );
}

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
  [data-selected] > & {
    border-color: var(--plum);
    box-shadow:
      inset 0 0 0 3px var(--leaf),
      inset 0 0 0 1rem var(--plum);
  }
`;
const Tick = styled(Dot)`
  border-radius: var(--corner);
  position: relative;
  [data-selected] > & {
    background: var(--plum);
    box-shadow: none;
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
}: RadioGroupProps) {
  const problem = useProblem(own, name);
  const given = {
    ...(value === undefined ? {} : { value }),
    ...(defaultValue === undefined ? {} : { defaultValue }),
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
}: CheckboxGroupProps) {
  const problem = useProblem(own, name);
  const given = {
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

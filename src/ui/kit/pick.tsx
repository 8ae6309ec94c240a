"use client";
import { Button } from "react-aria-components/Button";
import { ComboBox } from "react-aria-components/ComboBox";
import { ListBox, ListBoxItem } from "react-aria-components/ListBox";
import { Popover } from "react-aria-components/Popover";
import { Select, SelectValue } from "react-aria-components/Select";
import { Input } from "react-aria-components/TextField";
import styled, { css } from "styled-components";
import { type Option } from "./choice-fields";
import { field, helpOf, LabelText, LabelWords, Problem } from "./field-parts";

const box = css`
  min-height: var(--field);
  padding: var(--field-pad);
  font: inherit;
  color: var(--ink);
  background: var(--leaf);
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  text-align: start;
  [data-invalid] & {
    border-color: var(--madder);
  }
`;
const StyledSelect = styled(Select)<{ $small: boolean }>`
  ${field} ${({ $small }) => ($small ? "font-size: var(--small);" : "")}
`;
const StyledCombo = styled(ComboBox)`
  ${field}
`;
const Trigger = styled(Button)`
  ${box} display: flex;
  justify-content: space-between;
  gap: 0.75rem;
  align-items: center;
  cursor: pointer;
  width: 100%;
  & [data-placeholder] {
    color: var(--soft);
  }
`;
export const Line = styled(Input)`
  ${box} width: 100%;
`;
export const Pop = styled(Popover)`
  background: var(--leaf);
  border: 1px solid var(--rule-strong);
  border-radius: var(--corner);
  min-width: var(--trigger-width);
  max-width: min(30rem, 92vw);
  overflow: auto;
  box-shadow: 0 2px 0 var(--rule);
`;
export const Row = styled(ListBoxItem)`
  padding: var(--field-pad);
  min-height: var(--control);
  cursor: pointer;
  outline: none;
  overflow-wrap: anywhere;
  &[data-focused] {
    background: var(--plum-wash);
    @media (forced-colors: active) {
      outline: 2px solid Highlight;
      outline-offset: -2px;
    }
  }
  &[data-selected] {
    font-weight: 600;
  }
`;

export interface PickProps {
  readonly label: string;
  readonly options: readonly Option[];
  /** The chosen option's value; the empty text for none. */
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly onBlur?: () => void;
  readonly help?: string | undefined;
  readonly problem?: string | undefined;
  readonly required?: boolean | undefined;
  readonly optional?: string | undefined;
  readonly placeholder?: string;
  readonly describedBy?: string | undefined;
  /** The label is read out but not shown. */
  readonly bare?: boolean;
  readonly small?: boolean;
}
/** One of a list that opens. */
export function Pick({
  label,
  options,
  value,
  onChange,
  onBlur,
  help,
  problem,
  required,
  optional,
  placeholder = "…",
  bare = false,
  small = false,
  describedBy,
}: PickProps) {
  return (
    <StyledSelect
      $small={small}
      {...(bare ? { "aria-label": label } : {})}
      {...(describedBy ? { "aria-describedby": describedBy } : {})}
      selectedKey={value === "" ? null : value}
      onSelectionChange={(key) => onChange(String(key ?? ""))}
      {...(onBlur ? { onBlur } : {})}
      isRequired={required ?? false}
      isInvalid={problem !== undefined}
      validationBehavior="aria"
      placeholder={placeholder}
    >
      {bare ? null : (
        <LabelText>
          <LabelWords label={label} optional={optional} />
        </LabelText>
      )}
      {helpOf(help)}
      {/* Left and right on a closed list would choose unseen, and where a choice loads the page anew, load it. */}
      <span
        role="none"
        onKeyDownCapture={(event) => {
          if (event.key === "ArrowLeft" || event.key === "ArrowRight") event.stopPropagation();
        }}
      >
        <Trigger>
          <SelectValue />
          <span aria-hidden="true">▾</span>
        </Trigger>
      </span>
      <Problem>{problem}</Problem>
      <Pop>
        <ListBox items={options.map((o) => ({ id: o.value, name: o.label }))}>
          {(o: { id: string; name: string }) => (
            <Row id={o.id} textValue={o.name}>
              {o.name}
            </Row>
          )}
        </ListBox>
      </Pop>
    </StyledSelect>
  );
}

export interface LookUpProps extends PickProps {
  /** The options are those for what was typed, looked up elsewhere; the chosen one stays among them. */
  readonly onTyped?: (typed: string) => void;
}
/** One of a long list, found by typing. */
export function LookUp({
  onTyped,
  label,
  options,
  value,
  onChange,
  onBlur,
  help,
  problem,
  required,
  optional,
  describedBy,
}: LookUpProps) {
  const items = options.map((o) => ({ id: o.value, name: o.label }));
  return (
    <StyledCombo
      selectedKey={value === "" ? null : value}
      onSelectionChange={(key) => onChange(String(key ?? ""))}
      // Whoever types it out means it, and would lose it on leaving the field.
      onInputChange={(typed) => {
        onTyped?.(typed);
        const meant = options.filter((o) => o.label.toLowerCase() === typed.trim().toLowerCase());
        if (meant.length === 1 && meant[0]!.value !== value) onChange(meant[0]!.value);
      }}
      {...(onBlur ? { onBlur } : {})}
      {...(describedBy ? { "aria-describedby": describedBy } : {})}
      {...(onTyped ? { items, allowsEmptyCollection: true } : { defaultItems: items })}
      isRequired={required ?? false}
      isInvalid={problem !== undefined}
      validationBehavior="aria"
      menuTrigger="focus"
    >
      <LabelText>
        <LabelWords label={label} optional={optional} />
      </LabelText>
      {helpOf(help)}
      <Line dir="auto" />
      <Problem>{problem}</Problem>
      <Pop>
        <ListBox renderEmptyState={() => <NothingLike>Type a name, an e-mail, a phone or a birth date.</NothingLike>}>
          {(o: { id: string; name: string }) => (
            <Row id={o.id} textValue={o.name}>
              {o.name}
            </Row>
          )}
        </ListBox>
      </Pop>
    </StyledCombo>
  );
}
const NothingLike = styled.div`
  padding: 0.5rem 0.75rem;
  color: var(--soft);
`;

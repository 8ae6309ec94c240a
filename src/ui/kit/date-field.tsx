"use client";
import { parseDate } from "@internationalized/date";
import { useState } from "react";
import { DateField as AriaDateField, DateInput, DateSegment } from "react-aria-components/DateField";
import { I18nProvider } from "react-aria-components/I18nProvider";
import styled from "styled-components";
import { box, field, helpOf, LabelText, LabelWords, Problem, type Common } from "./field-parts";

// Apart from the other fields: calendars are a good part of a page's script, and the door has no date to pick.
export interface DateFieldProps extends Common {
  /** YYYY-MM-DD, or the empty text. */
  readonly value: string;
  readonly onChange: (day: string) => void;
  readonly onBlur?: () => void;
  readonly locale: string;
  readonly autoComplete?: string | undefined;
}
/** A day typed as day, month and year in the reader's own order, with the parts named for screen readers. */
export function DateField({
  label,
  optional,
  help,
  problem,
  required,
  value,
  onChange,
  onBlur,
  locale,
  describedBy,
  autoComplete,
}: DateFieldProps) {
  const [start] = useState(() => {
    try {
      return value === "" ? null : parseDate(value);
    } catch {
      return null;
    }
  });
  return (
    <I18nProvider locale={locale}>
      <StyledDateField
        defaultValue={start}
        onChange={(d) => onChange(d ? d.toString() : "")}
        {...(onBlur ? { onBlur } : {})}
        {...(describedBy ? { "aria-describedby": describedBy } : {})}
        {...(autoComplete ? { autoComplete } : {})}
        isRequired={required ?? false}
        isInvalid={problem !== undefined}
        validationBehavior="aria"
        shouldForceLeadingZeros
      >
        <LabelText elementType="span">
          <LabelWords label={label} optional={optional} />
        </LabelText>
        {helpOf(help)}
        <DateBox>{(segment) => <Segment segment={segment} />}</DateBox>
        <Problem>{problem}</Problem>
      </StyledDateField>
    </I18nProvider>
  );
}
const StyledDateField = styled(AriaDateField)`
  ${field}
`;
const DateBox = styled(DateInput)`
  ${box} display: flex;
  align-items: center;
  gap: 0.15rem;
  font-variant-numeric: tabular-nums;
`;
const Segment = styled(DateSegment)`
  padding: 0.1rem 0.25rem;
  border-radius: var(--corner);
  outline: none;
  caret-color: transparent;
  &[data-placeholder] {
    color: var(--soft);
  }
  &[data-focused] {
    background: var(--plum);
    color: var(--on-plum);
  }
`;

"use client";
import { useEffect, useRef, useState, useSyncExternalStore, type RefObject } from "react";
import { Input, TextArea, TextField as AriaTextField } from "react-aria-components/TextField";
import styled from "styled-components";
import { box, field, helpOf, LabelText, LabelWords, Problem, type Common } from "./field-parts";
import { useProblem } from "./field-problems";

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

export interface TextFieldProps extends Common {
  readonly name?: string;
  readonly value?: string;
  readonly defaultValue?: string;
  readonly onChange?: (value: string) => void;
  readonly onBlur?: () => void;
  readonly type?: "text" | "email" | "tel" | "password" | "url" | "date" | "time";
  readonly inputMode?: "numeric" | "decimal" | "tel" | "email" | undefined;
  readonly autoComplete?: string | undefined;
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
  describedBy,
}: TextFieldProps) {
  const problem = useProblem(own, name);
  const [typed, setTyped] = useState(defaultValue ?? "");
  const change = (now: string): void => {
    setTyped(now);
    onChange?.(now);
  };
  const box = useTypedBefore(value === undefined ? change : undefined);
  // An empty field runs as its page does; what is written in it runs as it is written.
  const dir = asked === "auto" && value === "" ? undefined : asked;
  const given = {
    ...(onBlur ? { onBlur } : {}),
    ...(name ? { name } : {}),
    ...(autoComplete ? { autoComplete } : {}),
    ...(maxLength === undefined ? {} : { maxLength }),
    ...(useFreeFocus(autoFocus ?? false) ? { autoFocus: true } : {}),
    ...(id ? { id } : {}),
    ...(describedBy ? { "aria-describedby": describedBy } : {}),
  };
  return (
    <StyledTextField
      {...given}
      value={value ?? typed}
      onChange={change}
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
        <Area ref={box} dir={dir} lang={lang} {...(placeholder === undefined ? {} : { placeholder })} />
      ) : (
        <Line
          ref={box}
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

/**
 * What was typed before the page's script ran stands in the box and nowhere else: it is taken over, or the next drawing
 * wipes it. Only where the field itself holds its text: a page that holds it knows better what belongs there, and a
 * browser that fills boxes again after a reload must not write into somebody's answers or notes.
 */
function useTypedBefore(change: ((typed: string) => void) | undefined): RefObject<BoxElement | null> {
  const box = useRef<BoxElement>(null);
  const takeOver = useRef(change);
  useEffect(() => {
    const there = box.current;
    if (there && there.value !== there.defaultValue) takeOver.current?.(there.value);
  }, []);
  return box;
}
const never = () => () => undefined;
/** Where somebody types into another field before the page's script is there, the focus is not taken from them. */
function useFreeFocus(wanted: boolean): boolean {
  const begins = useSyncExternalStore(
    never,
    () => false,
    () => true,
  );
  const [isTaken] = useState(
    () => begins && typeof document !== "undefined" && document.activeElement?.matches("main :is(input, textarea)"),
  );
  return wanted && isTaken !== true;
}
type BoxElement = HTMLInputElement & HTMLTextAreaElement;

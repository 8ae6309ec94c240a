"use client";
import { startTransition, useActionState, useEffect, useId, useRef, useState, type ReactNode } from "react";
import styled, { css } from "styled-components";
import type { Schema } from "yup";
import { Button } from "./button";
import { FieldProblems } from "./field-problems";
import { Notice } from "./notice";

/** What a form's action answers: problems by field name, or one message for the whole form. */
export interface FormState {
  readonly fields?: Readonly<Record<string, string>>;
  readonly message?: string;
  /** Said once it is done, where the page itself does not show that it was. */
  readonly done?: string;
}
export type FormAction = (previous: FormState, sent: FormData) => Promise<FormState>;

export interface ActionFormProps {
  readonly action: FormAction;
  /** Loads the schema the server checks with; leave out where the form has nothing to type. */
  readonly schema?: () => Promise<Schema>;
  readonly submit: string;
  readonly weight?: "primary" | "plain" | "quiet" | "danger";
  readonly children?: ReactNode;
  readonly hidden?: Readonly<Record<string, string>>;
  readonly disabled?: boolean;
  /** The button stands in the page's wide column, under what it is about. */
  readonly inPage?: boolean;
  /** It is sent once by itself as the page opens. A program that only fetches the page sends nothing. */
  readonly atOnce?: boolean;
}

/**
 * The one kind of form: checked in the browser, then by the server, with problems beside their fields. Works without
 * script too.
 */
export function ActionForm({
  action,
  schema,
  submit,
  weight = "primary",
  children,
  hidden = {},
  disabled = false,
  inPage = false,
  atOnce = false,
}: ActionFormProps) {
  const [state, dispatch, pending] = useActionState(action, {});
  const [local, setLocal] = useState<Readonly<Record<string, string>> | undefined>();
  const form = useRef<HTMLFormElement>(null);
  const checking = useRef(false);
  const id = useId();
  const sentAtOnce = useRef(false);
  useEffect(() => {
    if (!atOnce || sentAtOnce.current) return;
    sentAtOnce.current = true;
    form.current?.requestSubmit();
  }, [atOnce]);
  const outcome = useRef<HTMLDivElement>(null);
  // What the server found: the field takes the focus, or what is said of the whole.
  useEffect(() => {
    if (state.fields && Object.keys(state.fields).length > 0) focusProblem(form.current);
    else if (state.message || state.done) outcome.current?.focus();
  }, [state]);
  const fields = local ?? state.fields ?? {};
  return (
    <FieldProblems value={fields}>
      <Body
        // Our own words beside the field, in our language: the browser would stop the form and say its own, or nothing.
        ref={form}
        action={dispatch}
        id={id}
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          if (pending || checking.current) return;
          checking.current = true;
          const data = new FormData(event.currentTarget);
          void check(schema, data)
            .finally(() => (checking.current = false))
            .then((found) => {
              setLocal(found);
              if (found) requestAnimationFrame(() => focusProblem(form.current));
              else
                startTransition(() => {
                  dispatch(data);
                });
            });
        }}
      >
        {Object.entries(hidden).map(([name, value]) => (
          <input key={name} type="hidden" name={name} value={value} />
        ))}
        {children}
        <Foot $inPage={inPage}>
          <Outcome ref={outcome} tabIndex={-1}>
            {state.message && !pending ? <Notice tone="problem">{state.message}</Notice> : null}
            {state.done && !pending && !local ? <Notice tone="settled">{state.done}</Notice> : null}
          </Outcome>
          <div>
            <Button type="submit" weight={weight} isDisabled={disabled} busy={pending}>
              {submit}
            </Button>
          </div>
        </Foot>
      </Body>
    </FieldProblems>
  );
}
const focusProblem = (form: HTMLFormElement | null): void =>
  form?.querySelector<HTMLElement>('[aria-invalid="true"], [data-invalid] input')?.focus();
const Outcome = styled.div`
  outline: none;
  &:empty {
    display: none;
  }
`;
const inPage = css`
  padding-inline-start: calc(var(--margin-column) + var(--inset));
  @media (max-width: 44rem) {
    padding-inline-start: 0;
  }
`;
const Foot = styled.div<{ $inPage: boolean }>`
  display: grid;
  gap: 0.75rem;
  ${({ $inPage }) => ($inPage ? inPage : "")}
`;
const Body = styled.form`
  display: flex;
  flex-direction: column;
  gap: 1.1rem;
`;

/** What the browser can say by itself. Where the schema could not be loaded, the server says it. */
async function check(
  schema: ActionFormProps["schema"],
  sent: FormData,
): Promise<Readonly<Record<string, string>> | undefined> {
  if (!schema) return undefined;
  const loaded = await Promise.all([schema(), import("./form-problems")]).catch(() => undefined);
  return loaded && loaded[1].problemsOf(loaded[0], sent);
}

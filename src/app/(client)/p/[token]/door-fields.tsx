"use client";
import { TextField } from "@/ui/kit/text-field";
import { ActionForm } from "@/ui/kit/form";
import { checkCodeAction, checkDetailsAction } from "./actions";
import type { DoorProps } from "./door";

export interface DoorFieldsProps extends Pick<DoorProps, "words" | "own" | "wordIs"> {
  readonly ask: "code" | "details";
  readonly hidden: Readonly<Record<string, string>>;
  readonly focus: boolean;
}
/** What is typed at the door: a code, or details that both know. */
export function DoorFields({ ask, words, own, wordIs, hidden, focus }: DoorFieldsProps) {
  if (ask === "details")
    return (
      <ActionForm action={checkDetailsAction} submit={words.check} hidden={hidden}>
        <TextField name="birthDate" label={words.birthDate} type="date" autoComplete={own ? "bday" : "off"} required />
        <TextField name="word" label={words.word} autoComplete={own ? wordIs : "off"} required />
      </ActionForm>
    );
  return (
    <ActionForm
      action={checkCodeAction}
      schema={async () => (await import("@/core/forms")).codeSchemaSaying(words.sixDigits)}
      submit={words.check}
      hidden={hidden}
    >
      <TextField
        name="code"
        label={words.codeLabel}
        help={words.codeHelp}
        inputMode="numeric"
        autoComplete="one-time-code"
        maxLength={9}
        dir="ltr"
        autoFocus={focus}
      />
    </ActionForm>
  );
}

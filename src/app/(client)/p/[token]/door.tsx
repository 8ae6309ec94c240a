"use client";
import { codeSchema } from "@/core/forms";
import { TextField } from "@/ui/kit/fields";
import { ActionForm } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { checkCodeAction, checkDetailsAction, openFreelyAction, openKnownAction, sendCodeAction } from "./actions";

export interface DoorProps {
  readonly token: string;
  readonly way: "code" | "details" | "read-out" | "none" | "known";
  readonly codeOut: boolean;
  readonly language: string;
  /** The page was switched to it. */
  readonly switched: boolean;
  readonly words: Readonly<
    Record<
      "to" | "send" | "again" | "codeLabel" | "codeHelp" | "check" | "sent" | "notMine" | "birthDate" | "word",
      string
    >
  >;
}
/** One way in. Where a code is sent, first the button that sends it: opening the link alone sends nothing. */
export function Door({ token, way, codeOut, language, switched, words }: DoorProps) {
  const hidden = { token, language, switched: switched ? "yes" : "" };
  if (way === "known") return <ActionForm action={openKnownAction} submit={words.check} hidden={hidden} />;
  if (way === "none") return <ActionForm action={openFreelyAction} submit={words.check} hidden={hidden} />;
  if (way === "details")
    return (
      <ActionForm action={checkDetailsAction} submit={words.check} hidden={hidden}>
        <TextField name="birthDate" label={words.birthDate} type="date" required />
        <TextField name="word" label={words.word} required />
      </ActionForm>
    );
  const code = (
    <ActionForm action={checkCodeAction} schema={codeSchema} submit={words.check} hidden={hidden}>
      <TextField
        name="code"
        label={words.codeLabel}
        help={words.codeHelp}
        inputMode="numeric"
        autoComplete="one-time-code"
        maxLength={9}
        dir="ltr"
      />
    </ActionForm>
  );
  if (way === "read-out") return code;
  if (!codeOut)
    return (
      <>
        <p>{words.to}</p>
        <ActionForm action={sendCodeAction} submit={words.send} hidden={hidden} />
        <small>{words.notMine}</small>
      </>
    );
  return (
    <>
      <Notice>{words.sent}</Notice>
      {code}
      <ActionForm action={sendCodeAction} submit={words.again} weight="quiet" hidden={hidden} />
    </>
  );
}

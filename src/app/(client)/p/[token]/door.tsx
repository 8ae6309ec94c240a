"use client";
import { useState } from "react";
import { byNeed } from "@/ui/kit/by-need";
import { ActionForm } from "@/ui/kit/form";
import { Notice } from "@/ui/kit/notice";
import { openFreelyAction, openKnownAction, sendCodeAction } from "./actions";

/** Most doors begin with one button. */
const DoorFields = byNeed(async () => (await import("./door-fields")).DoorFields);

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
  // The button that sent the code is gone: whoever pressed it is where the code is typed.
  const [outAtFirst] = useState(codeOut);
  const hidden = { token, language, switched: switched ? "yes" : "" };
  if (way === "known") return <ActionForm action={openKnownAction} submit={words.check} hidden={hidden} />;
  if (way === "none") return <ActionForm action={openFreelyAction} submit={words.check} hidden={hidden} />;
  const fields = (ask: "code" | "details") => (
    <DoorFields ask={ask} words={words} hidden={hidden} focus={codeOut && !outAtFirst} />
  );
  if (way === "details") return fields("details");
  if (way === "read-out") return fields("code");
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
      {fields("code")}
      <ActionForm action={sendCodeAction} submit={words.again} weight="quiet" hidden={hidden} />
    </>
  );
}

"use client";
import { useEffect, useState } from "react";
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
  /** How long until another code can be asked for. */
  readonly waitSeconds: number;
  /** The code is sent as the page opens, not at a press. */
  readonly atOnce: boolean;
  /** Their own details are asked, not those of somebody they answer for. */
  readonly own: boolean;
  readonly wordIs: "family-name" | "postal-code";
  readonly language: string;
  /** The page was switched to it. */
  readonly switched: boolean;
  readonly words: Readonly<
    Record<
      | "to"
      | "send"
      | "again"
      | "againIn"
      | "codeLabel"
      | "codeHelp"
      | "check"
      | "sent"
      | "notMine"
      | "birthDate"
      | "word"
      | "sixDigits",
      string
    >
  >;
}
/** Another code can be asked for once the first had time to arrive; how long that is counts down. */
function SendAgain({
  words,
  hidden,
  waitSeconds,
}: Pick<DoorProps, "words" | "waitSeconds"> & { readonly hidden: Readonly<Record<string, string>> }) {
  const [left, setLeft] = useState(waitSeconds);
  useEffect(() => {
    if (left <= 0) return;
    const timer = setTimeout(() => setLeft(left - 1), 1000);
    return () => clearTimeout(timer);
  }, [left]);
  return (
    <ActionForm
      action={sendCodeAction}
      submit={left > 0 ? words.againIn.replace("{seconds}", String(left)) : words.again}
      weight="quiet"
      disabled={left > 0}
      hidden={hidden}
    />
  );
}
/** One way in. Where a code is sent, first the button that sends it: opening the link alone sends nothing. */
export function Door({ token, way, codeOut, waitSeconds, atOnce, own, wordIs, language, switched, words }: DoorProps) {
  // The button that sent the code is gone: whoever pressed it is where the code is typed.
  const [outAtFirst] = useState(codeOut);
  const hidden = { token, language, switched: switched ? "yes" : "" };
  if (way === "known") return <ActionForm action={openKnownAction} submit={words.check} hidden={hidden} />;
  if (way === "none") return <ActionForm action={openFreelyAction} submit={words.check} hidden={hidden} />;
  const fields = (ask: "code" | "details") => (
    <DoorFields {...{ ask, words, own, wordIs, hidden }} focus={codeOut && !outAtFirst} />
  );
  if (way === "details") return fields("details");
  if (way === "read-out") return fields("code");
  if (!codeOut)
    return (
      <>
        <p>{words.to}</p>
        <ActionForm action={sendCodeAction} submit={words.send} hidden={hidden} atOnce={atOnce} />
        <small>{words.notMine}</small>
      </>
    );
  return (
    <>
      <Notice>{words.sent}</Notice>
      {fields("code")}
      <SendAgain key={waitSeconds} words={words} hidden={hidden} waitSeconds={waitSeconds} />
    </>
  );
}

"use server";
import { refresh } from "next/cache";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export async function sendBackAction(_: FormState, sent: FormData): Promise<FormState> {
  const packetId = String(sent.get("packetId"));
  const lines = [...sent].flatMap(([name, reason]) => {
    const [, partId, ...key] = name.split(" ");
    return name.startsWith("why ") ? [{ partId, key: key.join(" "), reason: String(reason) }] : [];
  });
  const result = await runAsStaff(useCases.sendBack, { packetId, requestId: sent.get("requestId"), lines });
  if (!result.ok)
    return formFailure(result.error, {
      posted: "It is in the chart already. Reverse the posting first.",
      "no-such-answer": "One of these answers is not there any more. Load the page again.",
    });
  redirect(`/packets/${packetId}`);
}

export async function askAgainAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.askOnceMore, {
    packetId: sent.get("packetId"),
    requestId: sent.get("requestId"),
  });
  if (!result.ok)
    return formFailure(result.error, {
      "no-contact": "There is no way to reach this person. Nothing was sent.",
      "not-in-use":
        "One of these questionnaires is no longer in use, so it was not sent. Send what is left from the chart.",
      "nobody-there": "Somebody who had a link is no longer on file. Send it anew from the chart.",
    });
  redirect(`/packets/${result.value.packetId}`);
}
export async function addRemarkAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.addMarginNote, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Kept." };
}
export async function dropRemarkAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.dropMarginNote, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return {};
}
export async function handReturnAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.handReturn, Object.fromEntries(sent));
  if (!result.ok)
    return formFailure(result.error, { "nobody-there": "They cannot read returns. Nothing was changed." });
  refresh();
  return { done: "Handed over." };
}

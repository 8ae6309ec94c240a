"use server";
import { randomUUID } from "node:crypto";
import { revalidatePath } from "next/cache";
import { application, useCases } from "@/server";
import type { Door } from "@/core/packet";
import type { Instant } from "@/core/shared";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { doorCookie, setCookie } from "../../../_server/request";
import { leaveStaff, runAsStaff } from "../../../_server/run";

const words = {
  closed: "This packet cannot be answered any more. Nothing was changed.",
  "no-contact": "There is no way to reach this person. Nothing was sent.",
  "nobody-there": "This person is no longer on file. Nothing was sent.",
  "answers-there":
    "It was sent back, and shows what was answered before. Somebody who may see answers can do this. Nothing was changed.",
};
export interface NudgeState extends FormState {
  readonly soon?: boolean;
}
export async function nudgeAction(_: NudgeState, sent: FormData): Promise<NudgeState> {
  const result = await runAsStaff(useCases.nudge, {
    packetId: sent.get("packetId"),
    requestId: sent.get("requestId"),
    confirmed: sent.get("confirmed") === "yes",
  });
  if (!result.ok) return result.error.reason === "too-soon" ? { soon: true } : formFailure(result.error, words);
  revalidatePath("/packets/[packetId]", "page");
  return {};
}
export async function extendAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.extend, {
    packetId: sent.get("packetId"),
    expiresOn: sent.get("expiresOn"),
  });
  if (!result.ok) return formFailure(result.error, words);
  revalidatePath("/packets/[packetId]", "page");
  return {};
}
export async function withdrawAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.withdraw, { packetId: sent.get("packetId") });
  if (!result.ok) return formFailure(result.error, words);
  revalidatePath("/packets/[packetId]", "page");
  return {};
}

export async function unlockAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.unlock, { packetId: sent.get("packetId") });
  if (!result.ok) return formFailure(result.error, words);
  revalidatePath("/packets/[packetId]", "page");
  return {};
}
export async function reissueAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.reissueLink, {
    packetId: sent.get("packetId"),
    requestId: sent.get("requestId"),
  });
  if (!result.ok)
    return formFailure(result.error, {
      closed: "This packet came back already. Nothing was sent.",
      "no-contact": "There is no way to reach this person. Nothing was sent.",
    });
  revalidatePath("/packets/[packetId]", "page");
  return {};
}

/** The packet opens on this device for whoever gets it now; whoever hands it over is signed out of it first. */
export async function handOverAction(_: FormState, sent: FormData): Promise<FormState> {
  const packetId = String(sent.get("packetId"));
  const result = await runAsStaff(useCases.handOver, { packetId });
  if (!result.ok) return formFailure(result.error, words);
  await setCookie(await application(), doorCookie, result.value.passToken, `/f/${packetId}`, result.value.expiresAt);
  return leaveStaff(`/f/${packetId}`);
}

/** A code to read out, or why there is none. */
export async function readOutAction(
  packetId: string,
): Promise<{ readonly code: string; readonly until: Instant } | string> {
  const result = await runAsStaff(useCases.readOutCode, { packetId });
  return result.ok ? result.value : (formFailure(result.error, words).message ?? "");
}

/** A link in a letter of ours, for somebody around the client or the client. */
export async function giveLinkAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.giveLink, {
    packetId: sent.get("packetId"),
    requestId: sent.get("requestId"),
    relationId: sent.get("relationId") || null,
    role: sent.get("role"),
    by: "letter",
  });
  if (!result.ok) return formFailure(result.error, words);
  revalidatePath("/packets/[packetId]", "page");
  return {};
}
/** A link to be copied and how its door is opened, or why there is none. */
export async function copyLinkAction(input: {
  readonly packetId: string;
  readonly relationId: string | null;
  readonly role: string;
}): Promise<{ readonly link: string; readonly way: Door["way"] } | string> {
  const result = await runAsStaff(useCases.giveLink, { ...input, requestId: randomUUID(), by: "copy" });
  if (!result.ok) return formFailure(result.error, words).message ?? "";
  revalidatePath("/packets/[packetId]", "page");
  return { link: result.value.link!, way: result.value.way };
}

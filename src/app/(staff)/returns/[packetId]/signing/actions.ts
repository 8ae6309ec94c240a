"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

const words = {
  "no-contact": "They have no address a letter could go to. Add one, or name somebody else.",
  signed: "This place is signed already. Nothing was changed.",
  "not-their-turn": "It is not their turn yet. Nothing was changed.",
  "nobody-chosen": "Say who signs. Somebody by name needs an e-mail address. Nothing was changed.",
};
export async function nudgeSignerAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.nudgeSigner, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "Written to them again. Their earlier link opens nothing any more." };
}
export async function replaceSignerAction(_: FormState, sent: FormData): Promise<FormState> {
  const { chosen, ...rest } = Object.fromEntries(sent) as Record<string, string>;
  const [who = "", id = ""] = (chosen ?? "").split(" ");
  const result = await runAsStaff(useCases.replaceSigner, {
    ...rest,
    who,
    ...(who === "relation" ? { relationId: id } : {}),
    ...(who === "staff" ? { staffId: id } : {}),
  });
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "Kept. They hear of it as soon as it is their turn." };
}
export async function recordPaperAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.recordPaperSignature, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "Recorded." };
}
export async function recordTalkAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.recordTalk, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "Recorded." };
}

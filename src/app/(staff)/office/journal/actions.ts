"use server";
import { refresh } from "next/cache";
import { useCases, type JournalAsked, type JournalPage } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff, runWhileTyping } from "../../../_server/run";

export async function findInJournalAction(
  asked: Readonly<Record<keyof JournalAsked, string | number | undefined>>,
): Promise<JournalPage | undefined> {
  const result = await runWhileTyping(useCases.findInJournal, asked);
  return result.ok ? result.value : undefined;
}
export async function checkAnchorAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.checkAnchor, { text: sent.get("text") });
  if (!result.ok)
    return formFailure(result.error, {
      "no-anchor": "No anchor stands in this. It is the line that begins with “journal”.",
    });
  const { holds, seq } = result.value;
  return holds
    ? { done: `The journal goes through it, at row ${seq}.` }
    : {
        message: `The journal does not go through it at row ${seq}: it was changed or cut off since, or is another one.`,
      };
}
export async function mailAnchorsAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.setMailsAnchors, { on: sent.get("on") });
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Kept." };
}

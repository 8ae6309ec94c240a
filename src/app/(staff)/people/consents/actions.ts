"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export async function setNeededAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.setConsentNeeded, {
    questionnaireId: sent.get("questionnaireId"),
    needed: sent.get("needed") === "yes",
  });
  if (!result.ok) return formFailure(result.error);
  refresh();
  return {};
}
export async function withdrawConsentAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.withdrawConsent, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Withdrawn." };
}

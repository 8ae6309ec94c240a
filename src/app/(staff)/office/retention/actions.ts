"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export async function saveRetentionAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.saveRetention, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Kept." };
}
export async function clearDueAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.clearDue, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: `${result.value.gone} let go.` };
}

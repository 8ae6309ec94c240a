"use server";
import { revalidatePath } from "next/cache";
import { useCases } from "@/server";
import type { Placeholder } from "@/core/messages";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export interface SavedState extends FormState {
  readonly saved?: boolean;
}
export async function saveWordingAction(_: SavedState, sent: FormData): Promise<SavedState> {
  const result = await runAsStaff(useCases.saveWording, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  revalidatePath("/office/wordings", "page");
  return { saved: true };
}
/** What stands for the placeholders in a letter about that visit. */
export async function wordingValuesAction(visitId: string): Promise<Partial<Record<Placeholder, string>> | undefined> {
  const result = await runAsStaff(useCases.wordingValues, { visitId });
  return result.ok ? result.value : undefined;
}
export async function resetWordingAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.resetWording, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  revalidatePath("/office/wordings", "page");
  return {};
}

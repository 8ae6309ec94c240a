"use server";
import { revalidatePath } from "next/cache";
import { useCases } from "@/server";
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
export async function resetWordingAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.resetWording, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  revalidatePath("/office/wordings", "page");
  return {};
}

"use server";
import { revalidatePath } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

const words = {
  changed: "Somebody changed this meanwhile. Load the page again to see what stands now. Nothing of yours was kept.",
};
const done = (
  result: { readonly ok: true } | { readonly ok: false; readonly error: Parameters<typeof formFailure>[0] },
): FormState => {
  if (!result.ok) return formFailure(result.error, words);
  revalidatePath("/(staff)", "layout");
  return { done: "Kept." };
};
export async function changeContactAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.changeContact, Object.fromEntries(sent)));
}
export async function changeRelationAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.changeRelation, Object.fromEntries(sent)));
}
export async function endRelationAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.endRelation, Object.fromEntries(sent)));
}

"use server";
import { revalidatePath } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

const words = {
  "visits-ahead": "There are visits to come. Cancel them first; nothing was changed.",
  last: "Nobody would be left who sees this client. Add a colleague first.",
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
export async function changeIdentityAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.changeIdentity, Object.fromEntries(sent)));
}
export async function shareClientAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.shareClient, Object.fromEntries(sent)));
}
export async function unshareClientAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.unshareClient, Object.fromEntries(sent)));
}
export async function archiveClientAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.archiveClient, Object.fromEntries(sent)));
}
export async function bringBackClientAction(_: FormState, sent: FormData): Promise<FormState> {
  return done(await runAsStaff(useCases.bringBackClient, Object.fromEntries(sent)));
}

"use server";
import { refresh } from "next/cache";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

export async function eraseClientAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.eraseClient, Object.fromEntries(sent));
  if (result.ok) redirect("/office/retention");
  if (result.error.reason === "other-name")
    return { fields: { name: "This is not the name of this client. Nothing was erased." } };
  return formFailure(result.error, {
    held: "There is a hold on this client. End it first; nothing was erased.",
  });
}
export async function holdClientAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.holdClient, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "On hold." };
}
export async function endHoldAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.endHold, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "The hold has ended." };
}

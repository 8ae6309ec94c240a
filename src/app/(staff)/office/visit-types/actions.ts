"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

const page = "/office/visit-types";
export async function addVisitTypeAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.addVisitType, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect(page);
}
export async function changeVisitTypeAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.changeVisitType, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect(page);
}
export async function retireVisitTypeAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.retireVisitType, { visitTypeId: sent.get("visitTypeId") });
  if (!result.ok) return formFailure(result.error);
  redirect(page);
}
export async function offerVisitTypeAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.offerVisitType, { visitTypeId: sent.get("visitTypeId") });
  if (!result.ok) return formFailure(result.error);
  redirect(page);
}

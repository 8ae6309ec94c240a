"use server";
import { randomUUID } from "node:crypto";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import { fileProblemWords } from "@/core/files";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

const here = "/library/standing";
export async function putStandingAction(_: FormState, sent: FormData): Promise<FormState> {
  const all = (name: string): FormDataEntryValue[] => sent.getAll(name);
  const result = await runAsStaff(useCases.putStanding, {
    id: sent.get("id"),
    title: sent.get("title"),
    questionnaireIds: all("questionnaireIds"),
    prefillIds: all("prefillIds"),
    visitTypeIds: all("visitTypeIds"),
    leafletIds: all("leafletIds"),
  });
  if (!result.ok)
    return formFailure(result.error, {
      "not-found": "One of these is no longer here, or not yours to send. Load the page again. Nothing was saved.",
    });
  redirect(here);
}
export async function removeStandingAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.removeStanding, { id: sent.get("id") });
  if (!result.ok) return formFailure(result.error);
  redirect(here);
}
export async function addLeafletAction(_: FormState, sent: FormData): Promise<FormState> {
  const file = sent.get("file");
  if (!(file instanceof File)) return { message: "Choose a file first." };
  const result = await runAsStaff(useCases.addLeaflet, {
    requestId: randomUUID(),
    name: file.name,
    bytes: new Uint8Array(await file.arrayBuffer()),
  });
  if (!result.ok)
    return result.error.reason === "refused"
      ? { message: `${file.name} was not taken. Nothing was stored. ${fileProblemWords[result.error.why]}` }
      : formFailure(result.error);
  redirect(here);
}
export async function retireLeafletAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.retireLeaflet, { id: sent.get("id") });
  if (!result.ok) return formFailure(result.error);
  redirect(here);
}

"use server";
import { redirect } from "next/navigation";
import { application, runImports, useCases, log, nameOfError } from "@/server";
import type { ClientRow } from "@/core/chart";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff, runWhileTyping } from "../../../_server/run";

export interface FileRow {
  readonly line: number;
  readonly cells: ClientRow;
  readonly twin?: number;
}
/** Says what went wrong; nothing where it went well. */
export async function beginImportAction(requestId: string): Promise<string | undefined> {
  const result = await runWhileTyping(useCases.beginImport, { requestId });
  return result.ok ? undefined : (formFailure(result.error, signedOut).message ?? "");
}
export async function checkRowsAction(importId: string, rows: readonly FileRow[]): Promise<string | undefined> {
  const result = await runWhileTyping(useCases.checkRows, { importId, rows });
  return result.ok ? undefined : (formFailure(result.error, signedOut).message ?? "");
}
const signedOut = { "signed-out": "You were signed out. Sign in again and begin anew; nobody was added." };

export async function startImportAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.startImport, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  runImports(await application()).catch((error: unknown) => {
    log.error("Bringing clients in was cut short; it goes on by itself.", { error: nameOfError(error) });
  });
  redirect(`/people/bring/${String(sent.get("importId"))}`);
}
export async function dropImportAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.dropImport, Object.fromEntries(sent));
  if (!result.ok)
    return formFailure(result.error, { "under-way": "It is still under way. Wait until everybody was added." });
  redirect("/people");
}

/** Makes a new client of a chart from another practice, and opens it. */
export async function bringChartAction(requestId: string, _: FormState, sent: FormData): Promise<FormState> {
  const file = sent.get("file");
  const text = file instanceof File ? await file.text() : "";
  const result = await runAsStaff(useCases.importChart, { requestId, text });
  if (!result.ok)
    return result.error.reason === "unreadable"
      ? { message: `${result.error.why} Nobody was added.` }
      : formFailure(result.error);
  redirect(`/people/${result.value.id}`);
}

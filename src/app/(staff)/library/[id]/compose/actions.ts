"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { OwnReliability } from "@/usecases/measures";
import type { Question } from "@/core/questionnaire";
import type { Instant } from "@/core/shared";
import type { FormState } from "@/ui/kit/form";
import type { Desk } from "@/usecases/authoring";
import { formFailure } from "../../../../_server/form";
import { runAsStaff, runWhileTyping } from "../../../../_server/run";

export type SaveOutcome =
  | { readonly ok: true; readonly revision: string; readonly savedAt: Instant }
  | { readonly ok: false; readonly reason: string; readonly by?: string; readonly at?: Instant };

export async function saveDraftAction(input: {
  readonly id: string;
  readonly revision: string | null;
  readonly tried: readonly string[];
  readonly version: number;
  readonly next: string;
  readonly fhir: unknown;
}): Promise<SaveOutcome> {
  const result = await runWhileTyping(useCases.saveDraft, input);
  if (result.ok) return { ok: true, ...result.value };
  const { error } = result;
  return error.reason === "changed"
    ? { ok: false, reason: error.reason, by: error.by, at: error.at }
    : { ok: false, reason: error.reason };
}

export async function deskAction(input: {
  readonly id: string;
  readonly page: string;
  readonly leaving?: boolean;
}): Promise<Desk | undefined> {
  const result = await runWhileTyping(useCases.atDesk, input, false);
  return result.ok ? result.value : undefined;
}
export async function takeOverAction(input: { readonly id: string; readonly page: string }): Promise<boolean> {
  return (await runAsStaff(useCases.takeOverDraft, input)).ok;
}

export async function questionBankAction(input: {
  readonly words: string;
  readonly except: string;
}): Promise<readonly { readonly question: Question; readonly from: string }[]> {
  const result = await runWhileTyping(useCases.questionBank, input);
  return result.ok ? result.value : [];
}

export async function putInUseAction(_: FormState, sent: FormData): Promise<FormState> {
  const id = String(sent.get("id"));
  const result = await runAsStaff(useCases.putInUse, { id, material: sent.get("material") === "yes" });
  if (!result.ok) {
    const { error } = result;
    return error.reason === "proof"
      ? {
          message: `Proof found ${error.findings.length === 1 ? "an error" : `${error.findings.length} errors`}: ${error.findings[0]?.message ?? ""} It was not put in use, and the draft is kept.`,
        }
      : formFailure(error);
  }
  redirect(`/library/${id}`);
}

/** How reliable a score is in the practice's own answers; undefined for who may not read them. */
export async function ownReliabilityAction(input: {
  readonly questionnaireId: string;
  readonly linkId: string;
}): Promise<OwnReliability | undefined> {
  const result = await runWhileTyping(useCases.ownReliability, input);
  return result.ok ? result.value : undefined;
}

"use server";
import { useCases } from "@/server";
import type { Instant } from "@/core/shared";
import { runWhileTyping } from "../../../_server/run";

export type SaveOutcome =
  | { readonly ok: true; readonly revision: number; readonly savedAt: Instant }
  | { readonly ok: false; readonly reason: string };

export async function saveNoteAction(input: {
  noteId: string;
  revision: number;
  own: readonly { id: string; text: string }[];
  removed: readonly string[];
}): Promise<SaveOutcome> {
  const result = await runWhileTyping(useCases.saveNote, input);
  return result.ok ? { ok: true, ...result.value } : { ok: false, reason: result.error.reason };
}

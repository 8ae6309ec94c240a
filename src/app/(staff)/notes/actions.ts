"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import type { FoundNotes } from "@/usecases/notes";
import { formFailure } from "../../_server/form";
import { runAsStaff } from "../../_server/run";

/** Begins a note from whichever of a return, a visit or a client the form names, and goes there. */
export async function beginNoteAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.beginNote, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect(`/notes/${result.value.noteId}`);
}
/** What is looked for is posted, never part of an address: it may say something of somebody. */
export async function findNotesAction(words: string, before?: string): Promise<FoundNotes | string> {
  const result = await runAsStaff(useCases.findNotes, { words, before });
  return result.ok ? result.value : (formFailure(result.error).message ?? "");
}

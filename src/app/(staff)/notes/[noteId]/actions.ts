"use server";
import { redirect } from "next/navigation";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { Instant } from "@/core/shared";
import type { NoteDesk } from "@/usecases/notes";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff, runWhileTyping } from "../../../_server/run";

export type SaveOutcome =
  | { readonly ok: true; readonly revision: number; readonly savedAt: Instant }
  | { readonly ok: false; readonly reason: string };

export async function saveNoteAction(input: {
  noteId: string;
  revision: number;
  body: unknown;
  takeHome: unknown;
  over?: boolean;
}): Promise<SaveOutcome> {
  const result = await runWhileTyping(useCases.saveNote, input);
  return result.ok ? { ok: true, ...result.value } : { ok: false, reason: result.error.reason };
}
export async function atNoteAction(input: {
  noteId: string;
  page: string;
  leaving?: boolean;
}): Promise<NoteDesk | undefined> {
  const result = await runWhileTyping(useCases.atNote, input, false);
  return result.ok ? result.value : undefined;
}
const words = {
  "note-moved": "Somebody else saved this note meanwhile. Look at what stands there now, then go on.",
  signed: "This note is signed off. It can be added to, and not changed.",
  "nothing-to-share":
    "Nothing stands below the line yet. The note was not signed off: write something, or finish without sharing.",
  "no-contact":
    "There is no address of theirs. The note was not signed off: finish it without sharing, or add an address.",
  "no-such-colleague": "That colleague does not see this client. Choose another; nothing was signed off.",
  "not-signed": "It is not signed off: write in the note itself.",
} as const;
const field = (form: FormData, name: string): string | undefined => {
  const value = form.get(name);
  return typeof value === "string" && value !== "" ? value : undefined;
};

export async function layOutAction(input: { noteId: string; layoutId: string }): Promise<string | undefined> {
  const result = await runAsStaff(useCases.layOutNote, input);
  if (!result.ok) return formFailure(result.error, words).message;
  refresh();
  return undefined;
}
export async function linkNoteAction(input: { noteId: string; visitId: string | null }): Promise<string | undefined> {
  const result = await runAsStaff(useCases.linkNote, input);
  if (!result.ok) return formFailure(result.error, words).message;
  refresh();
  return undefined;
}
export async function bringAction(input: { noteId: string; packetId: string }): Promise<string | undefined> {
  const result = await runAsStaff(useCases.bringIntoNote, input);
  if (!result.ok) return formFailure(result.error, words).message;
  refresh();
  return undefined;
}
export async function finishAction(_: FormState, form: FormData): Promise<FormState> {
  const noteId = field(form, "noteId");
  const result = await runAsStaff(useCases.finishNote, {
    noteId,
    requestId: field(form, "requestId"),
    revision: Number(field(form, "revision")),
    share: form.get("share") !== null,
    cosignBy: field(form, "cosignBy"),
  });
  if (!result.ok) return formFailure(result.error, words);
  redirect(`/notes/${noteId}`);
}
export async function cosignAction(_: FormState, form: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.cosignNote, { noteId: field(form, "noteId") });
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return {};
}
export async function addToNoteAction(_: FormState, form: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.addToNote, {
    noteId: field(form, "noteId"),
    requestId: field(form, "requestId"),
    text: field(form, "text") ?? "",
  });
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return {};
}
const shareWords = {
  ...words,
  "nothing-to-share": "Nothing stands below the line. Nothing was shared.",
  "no-contact": "There is no address of theirs. Nothing was shared.",
} as const;
export async function shareAction(_: FormState, form: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.shareTakeHome, {
    noteId: field(form, "noteId"),
    requestId: field(form, "requestId"),
  });
  if (!result.ok) return formFailure(result.error, shareWords);
  refresh();
  return {};
}
export async function withdrawAction(_: FormState, form: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.withdrawTakeHome, { noteId: field(form, "noteId") });
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return {};
}
export async function restoreAction(_: FormState, form: FormData): Promise<FormState> {
  const noteId = field(form, "noteId");
  const result = await runAsStaff(useCases.restoreNote, {
    noteId,
    revision: Number(field(form, "revision")),
    restore: Number(field(form, "restore")),
  });
  if (!result.ok) return formFailure(result.error, words);
  redirect(`/notes/${noteId}`);
}
/** Puts an earlier version back without leaving the page: what was mine stays in the history. */
export async function takeTheirsAction(input: {
  noteId: string;
  revision: number;
  body: unknown;
  takeHome: unknown;
}): Promise<void> {
  const saved = await runAsStaff(useCases.saveNote, { ...input, over: true });
  if (saved.ok)
    await runAsStaff(useCases.restoreNote, {
      noteId: input.noteId,
      revision: saved.value.revision,
      restore: input.revision,
    });
  refresh();
}

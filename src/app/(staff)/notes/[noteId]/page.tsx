import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { NoteWriter } from "./note-writer";
import { SignedNote } from "./signed-note";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (noteId: string) => load(useCases.noteView, { noteId }));
interface Params {
  readonly params: Promise<{ readonly noteId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Note: ${(await look((await params).noteId)).clientName}` };
}
export default async function NotePage({ params }: Params) {
  const note = await look((await params).noteId);
  const requestId = randomUUID();
  if (note.signed)
    return <SignedNote note={note} requestId={requestId} mayTakeOut={(await staffRights()).includes("export")} />;
  return <NoteWriter key={note.id} note={note} requestId={requestId} />;
}

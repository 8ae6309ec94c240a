import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { NoteEditor } from "./note-editor";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (noteId: string) => load(useCases.noteView, { noteId }));
interface Params {
  readonly params: Promise<{ readonly noteId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Note: ${(await look((await params).noteId)).clientName}` };
}
export default async function NotePage({ params }: { readonly params: Promise<{ readonly noteId: string }> }) {
  return <NoteEditor note={await look((await params).noteId)} />;
}

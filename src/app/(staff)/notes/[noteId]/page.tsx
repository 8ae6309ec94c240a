import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { NoteEditor } from "./note-editor";

export const metadata: Metadata = { title: "Note" };
export default async function NotePage({ params }: { readonly params: Promise<{ readonly noteId: string }> }) {
  return <NoteEditor note={await load(useCases.noteView, await params)} />;
}

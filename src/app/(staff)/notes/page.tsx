import type { Metadata } from "next";
import { FindNotes } from "./find-notes";

export const metadata: Metadata = { title: "Find in notes" };
export default function NotesPage() {
  return <FindNotes />;
}

import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { HistoryView } from "./history-view";

interface Params {
  readonly params: Promise<{ readonly noteId: string }>;
}
export const metadata: Metadata = { title: "History of a note" };
export default async function HistoryPage({ params }: Params) {
  const { noteId } = await params;
  return <HistoryView noteId={noteId} history={await load(useCases.noteHistory, { noteId })} />;
}

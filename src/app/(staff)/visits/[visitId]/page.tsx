import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load, staffRights } from "../../../_server/run";
import { VisitPageView } from "./visit-page-view";

export const metadata: Metadata = { title: "Visit" };
export default async function VisitPage({ params }: { readonly params: Promise<{ readonly visitId: string }> }) {
  const { visitId } = await params;
  const visit = await load(useCases.visitView, { visitId });
  const { practitioners } = await load(useCases.visitChoices, {});
  const rights = await staffRights();
  const start =
    rights.includes("answers.read") && !visit.cancelled ? await load(useCases.visitStart, { visitId }) : undefined;
  return (
    <VisitPageView
      key={`${visit.startsAt} ${visit.staffId} ${visit.cancelled?.at}`}
      visit={visit}
      practitioners={practitioners}
      mayNote={rights.includes("note.write")}
      start={start}
      requestId={randomUUID()}
    />
  );
}

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
  return (
    <VisitPageView
      key={`${visit.startsAt} ${visit.staffId} ${visit.cancelled?.at}`}
      visit={visit}
      practitioners={practitioners}
      mayNote={(await staffRights()).includes("note.write")}
      requestId={randomUUID()}
    />
  );
}

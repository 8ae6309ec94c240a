import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { ReconcileView } from "./reconcile-view";

export const metadata: Metadata = { title: "Reconcile" };
export default async function ReconcilePage({ params }: { readonly params: Promise<{ readonly packetId: string }> }) {
  const view = await load(useCases.reconcileView, await params);
  if (view.settled) redirect(`/people/${view.clientId}`);
  return <ReconcileView view={view} requestId={randomUUID()} />;
}

import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { ReconcileView } from "./reconcile-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (packetId: string) => load(useCases.reconcileView, { packetId }));
interface Params {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Reconcile: ${(await look((await params).packetId)).clientName}` };
}
export default async function ReconcilePage({ params }: { readonly params: Promise<{ readonly packetId: string }> }) {
  const view = await look((await params).packetId);
  if (view.settled) redirect(`/people/${view.clientId}`);
  return <ReconcileView view={view} requestId={randomUUID()} />;
}

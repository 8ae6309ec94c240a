import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load, staffRights } from "../../../../_server/run";
import { ClientConsents } from "./client-consents";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string) => load(useCases.clientConsents, { clientId }));
interface Params {
  readonly params: Promise<{ readonly clientId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Consents: ${(await look((await params).clientId)).clientName}` };
}
export default async function ClientConsentsPage({ params }: Params) {
  const { clientId } = await params;
  return <ClientConsents clientId={clientId} {...await look(clientId)} rights={await staffRights()} />;
}

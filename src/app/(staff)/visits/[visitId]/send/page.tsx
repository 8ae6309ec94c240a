import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { SendView } from "../../../send/send-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (visitId: string) => load(useCases.sendOptions, { visitId }));
interface Params {
  readonly params: Promise<{ readonly visitId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Send questionnaires: ${(await look((await params).visitId)).clientName}` };
}
export default async function SendPage({ params }: { readonly params: Promise<{ readonly visitId: string }> }) {
  return <SendView options={await look((await params).visitId)} requestId={randomUUID()} asked={undefined} />;
}

import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { SigningView } from "./signing-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (packetId: string) => load(useCases.packetSigning, { packetId }));
interface Params {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Signatures: ${(await look((await params).packetId)).clientName}` };
}
export default async function SigningPage({ params }: Params) {
  return <SigningView view={await look((await params).packetId)} />;
}

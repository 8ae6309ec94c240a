import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { PacketView } from "./packet-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (packetId: string) => load(useCases.packetJourney, { packetId }));
interface Params {
  readonly params: Promise<{ readonly packetId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Packet: ${(await look((await params).packetId)).clientName}` };
}
export default async function PacketPage({ params }: { readonly params: Promise<{ readonly packetId: string }> }) {
  return <PacketView packet={await look((await params).packetId)} requestId={randomUUID()} />;
}

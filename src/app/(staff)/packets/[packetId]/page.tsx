import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { PacketView } from "./packet-view";

export const metadata: Metadata = { title: "Packet" };
export default async function PacketPage({ params }: { readonly params: Promise<{ readonly packetId: string }> }) {
  return <PacketView packet={await load(useCases.packetJourney, await params)} requestId={randomUUID()} />;
}

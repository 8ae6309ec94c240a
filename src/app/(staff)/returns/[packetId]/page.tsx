import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { ReturnView } from "./return-view";

export const metadata: Metadata = { title: "What came back" };
export default async function ReturnPage({ params }: { readonly params: Promise<{ readonly packetId: string }> }) {
  return <ReturnView view={await load(useCases.returnView, await params)} requestId={randomUUID()} />;
}

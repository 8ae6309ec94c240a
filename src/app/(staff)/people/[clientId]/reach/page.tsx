import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { ReachView } from "./reach-view";

export const metadata: Metadata = { title: "Contact details" };
export default async function ReachPage({ params }: { readonly params: Promise<{ readonly clientId: string }> }) {
  return <ReachView reach={await load(useCases.reachView, await params)} requestId={randomUUID()} />;
}

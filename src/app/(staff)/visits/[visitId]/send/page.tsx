import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { SendView } from "../../../send/send-view";

export const metadata: Metadata = { title: "Send questionnaires" };
export default async function SendPage({ params }: { readonly params: Promise<{ readonly visitId: string }> }) {
  return (
    <SendView options={await load(useCases.sendOptions, await params)} requestId={randomUUID()} asked={undefined} />
  );
}

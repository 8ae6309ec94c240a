import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { MessageView } from "./message-view";

export const metadata: Metadata = { title: "Message" };
export default async function MessagePage({ params }: { readonly params: Promise<{ readonly messageId: string }> }) {
  return <MessageView message={await load(useCases.postMessage, await params)} />;
}

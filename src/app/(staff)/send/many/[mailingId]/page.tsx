import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { MailingView } from "./mailing-view";

export const metadata: Metadata = { title: "Mailing" };
export default async function MailingPage({ params }: { readonly params: Promise<{ readonly mailingId: string }> }) {
  return <MailingView mailing={await load(useCases.mailingView, await params)} />;
}

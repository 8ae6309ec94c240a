import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { MailingView } from "./mailing-view";

export const metadata: Metadata = { title: "Mailing" };
interface Props {
  readonly params: Promise<{ readonly mailingId: string }>;
  readonly searchParams: Promise<{ readonly from?: string | string[] }>;
}
export default async function MailingPage({ params, searchParams }: Props) {
  const from = Number((await searchParams).from ?? 0);
  const asked = { ...(await params), from: Number.isInteger(from) && from > 0 ? from : 0 };
  return <MailingView mailing={await load(useCases.mailingView, asked)} />;
}

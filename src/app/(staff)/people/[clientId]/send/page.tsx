import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { SendView } from "../../../send/send-view";

export const metadata: Metadata = { title: "Send questionnaires" };
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  readonly searchParams: Promise<{ readonly q?: string | string[] }>;
}
export default async function SendPage({ params, searchParams }: Props) {
  const { q: questionnaire } = await searchParams;
  return (
    <SendView
      options={await load(useCases.sendOptions, await params)}
      requestId={randomUUID()}
      asked={typeof questionnaire === "string" ? questionnaire : undefined}
    />
  );
}

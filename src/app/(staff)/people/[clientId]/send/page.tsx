import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { SendView } from "../../../send/send-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string) => load(useCases.sendOptions, { clientId }));
interface Params {
  readonly params: Promise<{ readonly clientId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Send questionnaires: ${(await look((await params).clientId)).clientName}` };
}
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  readonly searchParams: Promise<{ readonly q?: string | string[] }>;
}
export default async function SendPage({ params, searchParams }: Props) {
  const { q: questionnaire } = await searchParams;
  return (
    <SendView
      options={await look((await params).clientId)}
      requestId={randomUUID()}
      asked={typeof questionnaire === "string" ? questionnaire : undefined}
    />
  );
}

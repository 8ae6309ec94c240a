import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { EverythingView } from "./everything-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string) => load(useCases.reachView, { clientId }));
interface Params {
  readonly params: Promise<{ readonly clientId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Everything about ${(await look((await params).clientId)).name}` };
}
export default async function EverythingPage({ params }: Params) {
  const { clientId, name, mayTakeOut } = await look((await params).clientId);
  return <EverythingView clientId={clientId} name={name} mayTakeOut={mayTakeOut} />;
}

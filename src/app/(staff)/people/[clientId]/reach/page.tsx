import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { ReachView } from "./reach-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string) => load(useCases.reachView, { clientId }));
interface Params {
  readonly params: Promise<{ readonly clientId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Details: ${(await look((await params).clientId)).name}` };
}
export default async function ReachPage({ params }: { readonly params: Promise<{ readonly clientId: string }> }) {
  return <ReachView reach={await look((await params).clientId)} requestId={randomUUID()} />;
}

import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { EraseView } from "./erase-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string) => load(useCases.eraseView, { clientId }));
interface Params {
  readonly params: Promise<{ readonly clientId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Erase or hold: ${(await look((await params).clientId)).name}` };
}
export default async function ErasePage({ params }: Params) {
  return <EraseView erase={await look((await params).clientId)} requestId={randomUUID()} />;
}

import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { MeasuresPage } from "./measures-page";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string) => load(useCases.measuresView, { clientId }));
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  /** `of`: the score that is shown; `since`: its baseline; `beside`: another on the same time axis. */
  readonly searchParams: Promise<{ readonly of?: string; readonly since?: string; readonly beside?: string }>;
}
export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Measures: ${(await look((await params).clientId)).name}` };
}
export default async function Measures({ params, searchParams }: Props) {
  return <MeasuresPage view={await look((await params).clientId)} requestId={randomUUID()} {...await searchParams} />;
}

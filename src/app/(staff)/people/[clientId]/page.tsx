import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { ChartView } from "./chart-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string) =>
  load(useCases.chartView, { clientId }, `/people/${encodeURIComponent(clientId)}/reach`),
);
interface Params {
  readonly params: Promise<{ readonly clientId: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Chart: ${(await look((await params).clientId)).name}` };
}
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  readonly searchParams: Promise<{ readonly posted?: string }>;
}
export default async function ChartPage({ params, searchParams }: Props) {
  const { clientId } = await params;
  // To a role that sees no charts, a person is whom letters go to.
  return <ChartView chart={await look(clientId)} posted={(await searchParams).posted} requestId={randomUUID()} />;
}

import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { ChartView } from "./chart-view";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (clientId: string, on: string | undefined) =>
  load(useCases.chartView, { clientId, on }, `/people/${encodeURIComponent(clientId)}/reach`),
);
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  /** `on`: the day as it was on which it is shown. */
  readonly searchParams: Promise<{ readonly posted?: string; readonly on?: string }>;
}
export async function generateMetadata({ params, searchParams }: Props): Promise<Metadata> {
  return { title: `Chart: ${(await look((await params).clientId, (await searchParams).on)).name}` };
}
export default async function ChartPage({ params, searchParams }: Props) {
  const { clientId } = await params;
  const { posted, on } = await searchParams;
  // To a role that sees no charts, a person is whom letters go to.
  return <ChartView chart={await look(clientId, on)} posted={posted} requestId={randomUUID()} />;
}

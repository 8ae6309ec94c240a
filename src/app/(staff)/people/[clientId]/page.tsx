import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { ChartView } from "./chart-view";

export const metadata: Metadata = { title: "Chart" };
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  readonly searchParams: Promise<{ readonly posted?: string }>;
}
export default async function ChartPage({ params, searchParams }: Props) {
  const { clientId } = await params;
  // To a role that sees no charts, a person is whom letters go to.
  return (
    <ChartView
      chart={await load(useCases.chartView, { clientId }, `/people/${encodeURIComponent(clientId)}/reach`)}
      posted={(await searchParams).posted}
      requestId={randomUUID()}
    />
  );
}

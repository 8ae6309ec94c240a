import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../../_server/run";
import { PaperPage } from "./paper-page";

interface Props {
  readonly params: Promise<{ readonly partId: string }>;
}
const look = cache(async (partId: string) => (await load(useCases.exportPart, { partId })).paper);
export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { title, client } = await look((await params).partId);
  return { title: `${title}: ${client}` };
}
export default async function ReturnedPaper({ params }: Props) {
  const { partId } = await params;
  return <PaperPage paper={await look(partId)} pdf={`/api/parts/${partId}/paper`} />;
}

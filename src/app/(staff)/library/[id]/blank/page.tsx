import type { Metadata } from "next";
import { cache } from "react";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { BlankPage } from "./blank-page";

interface Props {
  readonly params: Promise<{ readonly id: string }>;
}
const look = cache(async (id: string) => load(useCases.blankPaper, { id }));
export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Blank: ${(await look((await params).id)).title}` };
}
export default async function Blank({ params }: Props) {
  const { id } = await params;
  return <BlankPage paper={await look(id)} pdf={`/api/questionnaires/${id}/blank`} />;
}

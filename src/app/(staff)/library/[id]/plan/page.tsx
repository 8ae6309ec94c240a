import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { PlanView } from "./plan-view";

export const metadata: Metadata = { title: "Posting plan" };
interface PlanPageProps {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<Readonly<Record<string, string | undefined>>>;
}
export default async function PlanPage({ params, searchParams }: PlanPageProps) {
  const { id } = await params;
  const { whose } = await searchParams;
  const asked = whose === "own" || whose === "practice" ? { whose } : {};
  const view = await load(useCases.planView, { questionnaireId: id, ...asked });
  return <PlanView key={`${view.whose} ${view.revision}`} view={view} />;
}

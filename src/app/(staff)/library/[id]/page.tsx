import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { QuestionnaireView } from "./questionnaire-view";

export const metadata: Metadata = { title: "Questionnaire" };
interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly already?: string; readonly from?: string; readonly to?: string }>;
}
export default async function QuestionnairePage({ params, searchParams }: Props) {
  const { already, from, to } = await searchParams;
  const asked = { ...(await params), ...(from && to && /^\d+$/.test(from + to) ? { from, to } : {}) };
  return (
    <QuestionnaireView
      requestId={randomUUID()}
      view={await load(useCases.questionnaireView, asked)}
      already={already !== undefined}
    />
  );
}

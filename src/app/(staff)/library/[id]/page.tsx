import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../_server/run";
import { QuestionnaireView } from "./questionnaire-view";

export const metadata: Metadata = { title: "Questionnaire" };
interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly already?: string }>;
}
export default async function QuestionnairePage({ params, searchParams }: Props) {
  return (
    <QuestionnaireView
      requestId={randomUUID()}
      view={await load(useCases.questionnaireView, await params)}
      already={(await searchParams).already !== undefined}
    />
  );
}

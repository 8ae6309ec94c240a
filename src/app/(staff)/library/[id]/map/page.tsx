import type { Metadata } from "next";
import { fillMessages } from "@/i18n/client-words";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { QuestionnaireMap } from "./questionnaire-map";

export const metadata: Metadata = { title: "Map" };
export default async function MapPage({ params }: { readonly params: Promise<{ readonly id: string }> }) {
  const { id, questionnaire } = await load(useCases.composerView, await params);
  return <QuestionnaireMap id={id} questionnaire={questionnaire} words={fillMessages("en")} />;
}

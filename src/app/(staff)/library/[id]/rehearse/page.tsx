import type { Metadata } from "next";
import { application, useCases } from "@/server";
import { fillMessages } from "@/i18n/client-words";
import { clientLanguage } from "@/i18n/languages";
import { load } from "../../../../_server/run";
import { Rehearsal } from "./rehearsal";

export const metadata: Metadata = { title: "Rehearse" };
interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly in?: string | string[]; readonly s?: string | string[] }>;
}
export default async function RehearsePage({ params, searchParams }: Props) {
  const practice = await (await application()).practice();
  const { in: chosen, s: step } = await searchParams;
  const view = await load(useCases.rehearsal, {
    ...(await params),
    ...(typeof chosen === "string" ? { language: chosen } : {}),
  });
  const language = clientLanguage(view.language);
  return (
    <Rehearsal
      key={view.language}
      view={view}
      words={{ language, messages: fillMessages(language) }}
      firstStep={typeof step === "string" ? step : undefined}
      practiceName={practice?.name ?? ""}
    />
  );
}

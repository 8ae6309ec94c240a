import type { Metadata } from "next";
import { fillMessages } from "@/i18n/client-words";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { Composer } from "./composer";

export const metadata: Metadata = { title: "Composer" };
interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly line?: string | string[] }>;
}
export default async function ComposerPage({ params, searchParams }: Props) {
  const { line } = await searchParams;
  return (
    <Composer
      view={await load(useCases.composerView, await params)}
      words={fillMessages("en")}
      first={typeof line === "string" ? line : undefined}
    />
  );
}

import type { Metadata } from "next";
import { cache } from "react";
import { fillMessages } from "@/i18n/client-words";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { Composer } from "./composer";

/** Loaded once, for the page and its title, which tells one tab from another. */
const look = cache(async (id: string) => load(useCases.composerView, { id }));
interface Params {
  readonly params: Promise<{ readonly id: string }>;
}
export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: `Composer: ${(await look((await params).id)).questionnaire.title}` };
}
interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly line?: string | string[] }>;
}
export default async function ComposerPage({ params, searchParams }: Props) {
  const { line } = await searchParams;
  return (
    <Composer
      view={await look((await params).id)}
      words={fillMessages("en")}
      first={typeof line === "string" ? line : undefined}
    />
  );
}

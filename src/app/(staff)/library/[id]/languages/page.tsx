import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { Languages } from "./languages";

export const metadata: Metadata = { title: "Languages" };
interface Props {
  readonly params: Promise<{ readonly id: string }>;
  readonly searchParams: Promise<{ readonly in?: string | string[] }>;
}
export default async function LanguagesPage({ params, searchParams }: Props) {
  const chosen = (await searchParams).in;
  return (
    <Languages
      view={await load(useCases.composerView, await params)}
      first={typeof chosen === "string" ? chosen : undefined}
    />
  );
}

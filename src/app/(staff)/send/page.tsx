import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { useCases } from "@/server";
import { load } from "../../_server/run";
import { FindView } from "./find-view";

export const metadata: Metadata = { title: "Send to somebody" };
export default async function FindPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ readonly q?: string | string[] }>;
}) {
  const { q: questionnaire } = await searchParams;
  return (
    <FindView
      all={(await load(useCases.people, { most: 1 })).total}
      requestId={randomUUID()}
      asked={typeof questionnaire === "string" ? questionnaire : undefined}
    />
  );
}

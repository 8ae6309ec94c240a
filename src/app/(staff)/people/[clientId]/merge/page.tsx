import { randomUUID } from "node:crypto";
import type { Metadata } from "next";
import { isId } from "@/core/shared";
import { useCases } from "@/server";
import { load } from "../../../../_server/run";
import { MergeChoice, MergeView, UndoMerge } from "./merge-view";

export const metadata: Metadata = { title: "Merge two records" };
interface Props {
  readonly params: Promise<{ readonly clientId: string }>;
  readonly searchParams: Promise<{ readonly with?: string | string[]; readonly undo?: string | string[] }>;
}
export default async function MergePage({ params, searchParams }: Props) {
  const { clientId: keptId } = await params;
  const { with: goneId, undo } = await searchParams;
  if (typeof undo === "string" && isId(undo)) return <UndoMerge clientId={keptId} mergeId={undo} />;
  if (typeof goneId !== "string" || !isId(goneId)) {
    const person = await load(useCases.person, { clientId: keptId });
    return <MergeChoice clientId={keptId} name={person.name} />;
  }
  const preview = await load(useCases.mergePreview, { keptId, goneId });
  return <MergeView key={preview.seen} preview={preview} requestId={randomUUID()} />;
}

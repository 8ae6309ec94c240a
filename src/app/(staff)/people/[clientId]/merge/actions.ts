"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

export async function mergeAction(_: FormState, sent: FormData): Promise<FormState> {
  const { decided, ...rest } = Object.fromEntries(sent);
  const result = await runAsStaff(useCases.mergeClients, {
    ...rest,
    decided: JSON.parse(String(decided)) as Record<string, string>,
  });
  if (!result.ok)
    return formFailure(result.error, {
      changed: "One of the charts changed meanwhile. Load the page again and compare once more. Nothing was merged.",
      undecided: "Something that differs is not decided yet. Nothing was merged.",
    });
  redirect(`/people/${String(rest["keptId"])}`);
}
export async function undoMergeAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.undoMerge, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  redirect(`/people/${result.value.goneId}`);
}

"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

const words = {
  "no-version": "Put the questionnaire in use first: the plan is of the version that is sent.",
  "plan-moved": "A colleague changed the plan meanwhile. It is shown as it is now; nothing of yours was kept.",
  "wrong-field": "This does not fit that field. Nothing was changed.",
  "not-allowed": "Only who may change the questionnaire may change the practice’s plan. Keep a variant of your own.",
};
export interface KeepPlan {
  readonly questionnaireId: string;
  readonly whose: "practice" | "own";
  readonly revision: number;
  readonly lines: readonly { readonly linkId: string; readonly field: string | null; readonly rule?: string }[];
  readonly order: readonly string[];
}
/** Keeps where lines go; says why where it could not. */
export async function keepPlanAction(plan: KeepPlan): Promise<string | undefined> {
  const result = await runAsStaff(useCases.keepPlan, plan);
  refresh();
  return result.ok ? undefined : (formFailure(result.error, words).message ?? "");
}
export async function offerPlanAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.offerPlan, {
    questionnaireId: sent.get("questionnaireId"),
    offered: sent.get("offered") === "yes",
  });
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return {};
}
export async function takePlanAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.takePlan, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "It is your variant now." };
}
export async function dropPlanAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.dropPlan, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error, words);
  refresh();
  return { done: "Put back." };
}

"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export async function saveMeasurePolicyAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.setMeasurePolicy, Object.fromEntries(sent));
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Saved." };
}

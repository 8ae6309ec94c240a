"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../_server/form";
import { runAsStaff } from "../_server/run";

export async function closeAlertAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.closeAlert, { alertId: sent.get("alertId"), done: sent.get("done") });
  if (!result.ok)
    return result.error.reason === "closed-already"
      ? { message: `${result.error.by} closed this alert meanwhile. What you typed was not kept.` }
      : formFailure(result.error);
  refresh();
  return { done: "Closed." };
}

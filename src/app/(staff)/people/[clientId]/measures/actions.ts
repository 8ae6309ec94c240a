"use server";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../../_server/form";
import { runAsStaff } from "../../../../_server/run";

const rhythmIn = (sent: FormData) => {
  const when = sent.get("when");
  return { everyWeeks: when === "visit" ? null : Number(when), recall: sent.get("recall") };
};
export async function scheduleAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.scheduleMeasures, {
    requestId: sent.get("requestId"),
    clientId: sent.get("clientId"),
    questionnaireIds: String(sent.get("questionnaireIds") ?? "")
      .split(" ")
      .filter((id) => id !== ""),
    ...rhythmIn(sent),
  });
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Begun." };
}
export async function changeScheduleAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.changeSchedule, { scheduleId: sent.get("scheduleId"), ...rhythmIn(sent) });
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: "Changed." };
}
export async function endScheduleAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.endSchedule, Object.fromEntries(sent));
  if (!result.ok)
    return formFailure(result.error, {
      "no-contact": "They cannot be reached: no e-mail or phone is on file. Nothing was changed.",
    });
  refresh();
  return { done: "Ended." };
}

"use server";
import { redirect } from "next/navigation";
import { application, runMailings, useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

const some = (sent: FormData, name: string): string | undefined => {
  const v = sent.get(name);
  return typeof v === "string" && v !== "" ? v : undefined;
};
/** Begins the mailing and answers at once: the writing goes on by itself. */
export async function startMailingAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.startMailing, {
    requestId: sent.get("requestId"),
    clientIds: String(sent.get("clientIds")).split(" ").filter(Boolean),
    questionnaireIds: sent.getAll("questionnaireIds"),
    prefillIds: sent.getAll("prefillIds"),
    leafletIds: sent.getAll("leafletIds"),
    expiresOn: some(sent, "expiresOn"),
    dueOn: some(sent, "dueOn"),
    line: some(sent, "line"),
  });
  if (!result.ok)
    return formFailure(result.error, {
      "not-in-use":
        "One of these questionnaires is no longer in use. Load the page again and choose anew. Nothing was sent.",
      "not-found": "Something you chose is no longer here. Load the page again. Nothing was sent.",
    });
  runMailings(await application()).catch((error: unknown) => {
    console.error(
      "kind-ledger: a mailing was cut short; it goes on when the app starts again.",
      error instanceof Error ? error.message : "",
    );
  });
  redirect(`/send/many/${result.value.id}`);
}
export async function stopMailingAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.stopMailing, { mailingId: sent.get("mailingId") });
  if (!result.ok) return formFailure(result.error, { closed: "Everybody was written to already." });
  redirect(`/send/many/${String(sent.get("mailingId"))}`);
}

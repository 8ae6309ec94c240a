"use server";
import { redirect } from "next/navigation";
import { application, runMailings, useCases, log, nameOfError } from "@/server";
import type { PeopleWish } from "@/core/scheduling";
import type { MailingPeople } from "@/usecases/sending";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff, runWhileTyping } from "../../../_server/run";

const some = (sent: FormData, name: string): string | undefined => {
  const v = sent.get(name);
  return typeof v === "string" && v !== "" ? v : undefined;
};
export interface ChoiceAsked extends PeopleWish {
  readonly about?: string;
  readonly questionnaireIds: readonly string[];
  readonly twice: boolean;
  readonly everybody: boolean;
  readonly except: readonly string[];
}
/** Who would be written to, a page at a time; nothing where that cannot be said. */
export async function mailingPeopleAction(
  asked: ChoiceAsked & { readonly from: number },
): Promise<MailingPeople | undefined> {
  const result = await runWhileTyping(useCases.mailingPeople, asked);
  return result.ok ? result.value : undefined;
}
/** Begins the mailing and answers at once: the writing goes on by itself. */
export async function startMailingAction(_: FormState, sent: FormData): Promise<FormState> {
  const recipients = await runAsStaff(useCases.mailingRecipients, {
    ...(JSON.parse(String(sent.get("choice"))) as ChoiceAsked),
    seen: sent.get("seen"),
  });
  if (!recipients.ok)
    return formFailure(recipients.error, {
      changed: "Who fits has changed meanwhile. Load the page again and look once more. Nothing was sent.",
    });
  const result = await runAsStaff(useCases.startMailing, {
    requestId: sent.get("requestId"),
    clientIds: recipients.value,
    questionnaireIds: sent.getAll("questionnaireIds"),
    prefillIds: sent.getAll("prefillIds"),
    leafletIds: sent.getAll("leafletIds"),
    expiresOn: some(sent, "expiresOn"),
    dueOn: some(sent, "dueOn"),
    line: some(sent, "line"),
  });
  if (!result.ok)
    return formFailure(result.error, {
      "confirm-signing":
        "Confirm first that electronic signatures are accepted where you file them: under Signatures in Office, or here. Nothing was sent.",
      "not-in-use":
        "One of these questionnaires is no longer in use. Load the page again and choose anew. Nothing was sent.",
      "not-found": "Something you chose is no longer here. Load the page again. Nothing was sent.",
    });
  runMailings(await application()).catch((error: unknown) => {
    log.error("A mailing was cut short; it goes on by itself.", { error: nameOfError(error) });
  });
  redirect(`/send/many/${result.value.id}`);
}
export async function stopMailingAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.stopMailing, { mailingId: sent.get("mailingId") });
  if (!result.ok) return formFailure(result.error, { closed: "Everybody was written to already." });
  redirect(`/send/many/${String(sent.get("mailingId"))}`);
}

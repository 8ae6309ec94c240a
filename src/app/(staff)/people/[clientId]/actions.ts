"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export async function reverseAction(_: FormState, sent: FormData): Promise<FormState> {
  const clientId = sent.get("clientId");
  const result = await runAsStaff(useCases.reverse, {
    clientId,
    postingId: sent.get("postingId"),
    requestId: sent.get("requestId"),
  });
  if (!result.ok) return formFailure(result.error, { "already-reversed": "This posting was reversed already." });
  redirect(`/people/${String(clientId)}`);
}

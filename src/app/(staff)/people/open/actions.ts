"use server";
import { redirect } from "next/navigation";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStaff } from "../../../_server/run";

export async function openClientAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.openClient, Object.fromEntries(sent));
  if (!result.ok)
    return formFailure(result.error, {
      nobody:
        "No colleague has a client of exactly that name and birth date. Check both; where two have them, ask an owner.",
      "too-many": "You asked very often. Wait an hour, or ask an owner.",
    });
  redirect(`/people/${result.value.id}`);
}

"use server";
import { after } from "next/server";
import { useCases } from "@/server";
import { emailSchema } from "@/core/forms";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../../_server/form";
import { runAsStranger } from "../../../_server/run";

/** Answers before anything is looked up: neither words nor time tell whether there is such an account. */
export async function forgottenAction(_: FormState, sent: FormData): Promise<FormState> {
  const email = sent.get("email");
  if (!emailSchema.isValidSync({ email }))
    return formFailure({ reason: "invalid", fields: { email: "This is not an e-mail address." } });
  after(async () => {
    await runAsStranger(useCases.forgotPassword, { email });
  });
  return {
    done: "If there is an account with this address, a letter is on its way to it. Its link works for an hour.",
  };
}

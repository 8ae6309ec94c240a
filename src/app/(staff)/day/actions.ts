"use server";
import { randomUUID } from "node:crypto";
import { redirect } from "next/navigation";
import { refresh } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../_server/form";
import { runAsStaff } from "../../_server/run";

export async function tryLetterAction(): Promise<FormState> {
  const result = await runAsStaff(useCases.tryLetter, {});
  if (!result.ok) return formFailure(result.error);
  refresh();
  return { done: `A letter is on its way to ${result.value.to}. Where it does not arrive, the Post room says why.` };
}
/** Adds the test client, or finds the one there is, and goes on to sending them something. */
export async function testClientAction(): Promise<FormState> {
  const result = await runAsStaff(useCases.addTestClient, { requestId: randomUUID() });
  if (!result.ok) return formFailure(result.error);
  redirect(`/people/${result.value.id}/send`);
}

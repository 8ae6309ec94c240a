"use server";
import { revalidatePath } from "next/cache";
import { useCases } from "@/server";
import type { FormState } from "@/ui/kit/form";
import { formFailure } from "../../_server/form";
import { runAsStaff } from "../../_server/run";

export async function simulateAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.simulatePost, { simulation: sent.get("simulation") });
  if (!result.ok) return formFailure(result.error);
  revalidatePath("/post-room", "page");
  return {};
}
export async function tryAgainAction(_: FormState, sent: FormData): Promise<FormState> {
  const result = await runAsStaff(useCases.tryAgain, { messageId: sent.get("messageId") });
  if (!result.ok) return formFailure(result.error, { arrived: "It has arrived by now, so it was not sent again." });
  revalidatePath("/post-room", "page");
  return {};
}

"use server";
import { useCases } from "@/server";
import { bytesOf } from "../../../_server/sent-file";
import { runAsStaff } from "../../../_server/run";
import type { PaperVerdict } from "@/usecases/signing";

export type CheckState =
  | { readonly kind: "idle" }
  | { readonly kind: "failed"; readonly words: string }
  | { readonly kind: "checked"; readonly verdict: PaperVerdict };
export async function checkPaperAction(_: CheckState, sent: FormData): Promise<CheckState> {
  const bytes = await bytesOf(sent, "file");
  const result = await runAsStaff(useCases.checkPaper, { bytes });
  if (result.ok) return { kind: "checked", verdict: result.value };
  const words: Readonly<Record<string, string>> = {
    unreadable: "This is no PDF, or none that can be looked at. Nothing can be said of it.",
    busy: "Many files are being looked at just now. Try again in a minute.",
    "not-allowed": "Your role does not allow this.",
  };
  return { kind: "failed", words: words[result.error.reason] ?? "That did not work." };
}

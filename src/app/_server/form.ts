import "server-only";
import type { FormState } from "@/ui/kit/form";

const general: Readonly<Record<string, string>> = {
  "not-allowed": "Your role does not allow this. Nothing was changed.",
  busy: "The database does not answer just now. Nothing was changed; try again in a moment.",
  "not-found": "This is no longer here. Nothing was changed.",
};
/**
 * A use case's failure as what the form shows. `words` names this form's own reasons; everything says what was kept.
 */
export function formFailure(
  error: { readonly reason: string; readonly fields?: Readonly<Record<string, string>> },
  words: Readonly<Record<string, string>> = {},
): FormState {
  if (error.reason === "invalid" && error.fields) {
    const whole = error.fields[""];
    return { fields: error.fields, message: whole ?? Object.values(error.fields)[0] ?? "" };
  }
  return { message: words[error.reason] ?? general[error.reason] ?? "That did not work. Nothing was changed." };
}

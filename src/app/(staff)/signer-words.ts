import type { Signer } from "@/core/questionnaire";

/** Who signs at a place. */
export const signerWords: Readonly<Record<Signer, string>> = {
  client: "the client",
  guardian: "a parent or guardian",
  partner: "the partner",
  supervisor: "the supervisor",
};

import type { SignatureWay, Signer } from "@/core/questionnaire";

/** Who signs at a place. */
export const signerWords: Readonly<Record<Signer, string>> = {
  client: "the client",
  guardian: "a parent or guardian",
  partner: "the partner",
  supervisor: "the supervisor",
  practitioner: "the practitioner",
  named: "somebody else, by name",
};

/** How a signature is made. */
export const wayWords: Readonly<Record<SignatureWay, string>> = {
  typed: "Type the name",
  drawn: "Draw",
  picture: "A picture of a signature",
  ticked: "Just a tick, for what is not grave",
};

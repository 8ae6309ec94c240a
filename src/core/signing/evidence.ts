import type { Id, Instant } from "../shared";

/** How somebody proved who they are, before they signed. */
export const proofs = [
  "code-email",
  "code-text",
  "read-out",
  "details",
  "known",
  "link",
  "handed-over",
  "staff",
  "sheet",
] as const;
export type Proof = (typeof proofs)[number];
/** In words, for the page of evidence: it is read by people who know nothing of the app. */
export const proofWords: Readonly<Record<Proof, string>> = {
  "code-email": "a code sent to their e-mail address",
  "code-text": "a code sent to their phone",
  "read-out": "a code the practice read out to them",
  details: "details that they and the practice both know",
  known: "a code, on the same device, for another packet of theirs",
  link: "their personal link alone",
  "handed-over": "being known by sight to whoever handed over the practice’s device",
  staff: "signing in to the practice, and their password or a code once more",
  sheet: "the sheet itself, which the practice has and recorded",
};

/** How a signature was made, besides what was signed. */
export interface Evidence {
  /** What the signer is: "client", "guardian", "Employer". */
  readonly as: string;
  readonly proof: Proof;
  /** When the door was passed; none for staff. */
  readonly provedAt?: Instant;
  /** They agreed to sign electronically; false for a signature on paper. */
  readonly electronic: boolean;
  /** The signer's zone (IANA), in which the date is shown to them. */
  readonly zone: string;
  /** Whose it is, among those who sign this packet. */
  readonly signerId: Id<"Signer">;
  /** Who recorded it, of a signature on paper; who used their stored signature, of one by staff. */
  readonly staffId?: Id<"Staff">;
}
/** What the practice agreed to about electronic signatures. */
export interface SigningPolicy {
  /** Somebody confirmed that they are accepted where its papers are filed. */
  readonly confirmed?: { readonly at: Instant; readonly by: string };
  /** Who signed gets their sealed paper as a file in a mail, not behind their link. */
  readonly mailsPapers?: boolean;
}
/** How a consent may be talked over. */
export const talkWays = ["in-person", "video", "phone"] as const;
/** The conversation about a consent. */
export interface Talk {
  /** YYYY-MM-DD. */
  readonly on: string;
  readonly how: (typeof talkWays)[number];
  readonly present: string;
  readonly questions: string;
}
export const talkWords: Readonly<Record<Talk["how"], string>> = {
  "in-person": "In person",
  video: "By video",
  phone: "By phone",
};

import type { LinkRole } from "../../core/packet";
import type { Id, Instant, Role } from "../../core/shared";

interface From {
  /** The address the request came from, as the server saw it. */
  readonly address: string;
  readonly device: string;
}
export interface StaffActor extends From {
  readonly kind: "staff";
  readonly id: Id<"Staff">;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly sessionDigest: string;
  /** When the session ends unless it is extended; none where no person sits behind it. */
  readonly sessionUntil?: Instant;
  readonly singleKeys?: boolean;
  /** False where a person signed in with a password alone. */
  readonly secondFactor?: boolean;
}
/** Somebody who passed the door check of one packet. */
export interface ClientActor extends From {
  readonly kind: "client";
  readonly packetId: Id<"Packet">;
  readonly linkId: Id<"Link">;
  /** Fills it in, only reads, or signs what came back. */
  readonly role: LinkRole;
  readonly passDigest: string;
  /** Who handed them the practice's own device; none on a device of theirs. */
  readonly handedBy?: string;
  /** Let in by somebody who may not see answers: nothing is shown but what was typed through this pass. */
  readonly unseen?: boolean;
}
export interface Stranger extends From {
  readonly kind: "stranger";
}
/** The answers this person is shown: all of them, or those of their own pass. For the repository. */
export const seenBy = ({ unseen, passDigest }: ClientActor): string | undefined => (unseen ? passDigest : undefined);
export type Actor = StaffActor | ClientActor | Stranger;

export const actorName = (actor: Actor): string => {
  if (actor.kind === "staff") return `staff:${actor.id}`;
  if (actor.kind === "client") return `client:${actor.packetId}`;
  return "stranger";
};

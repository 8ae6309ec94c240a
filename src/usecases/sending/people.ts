import { nameOf } from "../../core/chart";
import type { CopyRole } from "../../core/packet";
import type { FillerKind } from "../../core/signing";
import type { Id } from "../../core/shared";
import type { Client, Packet, Relation } from "../../db/repositories";
import { inOrder, type Context, type StaffActor } from "../kit";
import { languageOf, recipientFor, type Recipient } from "./recipient";
import { issueLink, type Target } from "./target";

/** Somebody who got a link to a packet. */
export interface PacketPerson {
  /** Undefined for the client. */
  readonly relationId: Id<"Relation"> | undefined;
  readonly name: string;
  readonly kind: Relation["kind"] | undefined;
  readonly role: CopyRole;
  /** Every link they ever had to it. */
  readonly links: readonly Id<"Link">[];
  /** One of them still works. */
  readonly live: boolean;
}

/** Everybody who got a link to this packet, in the order they first did. */
export async function peopleOf({ repo }: Context, packet: Packet, client: Client): Promise<PacketPerson[]> {
  const links = (await repo.links.ofPacket(packet)).filter((l) => l.signerId === null);
  const relations = await repo.relations.ofClient(client.id);
  return [...new Set(links.map((l) => l.relationId))].map((relationId) => {
    const own = links.filter((l) => l.relationId === relationId);
    const relation = relations.find((r) => r.id === relationId);
    return {
      relationId: relationId ?? undefined,
      name: nameOf(relation ?? client),
      kind: relation?.kind,
      role: own.at(-1)!.role === "fills" ? "fills" : "reads",
      links: own.map((l) => l.id),
      live: own.some((l) => !l.revokedAt),
    };
  });
}

/** What somebody who came by this link is to the client. */
export const kindAt = (people: readonly PacketPerson[], link: Id<"Link">): FillerKind =>
  people.find((p) => p.links.includes(link))?.kind ?? "client";
/** What those who fill it in, by a link that works, are to the client. */
export const fillersOf = (people: readonly PacketPerson[]): FillerKind[] => [
  ...new Set(people.filter((p) => p.live && p.role === "fills").map((p) => p.kind ?? "client")),
];

export interface LinkHolder {
  readonly recipient: Recipient;
  readonly role: CopyRole;
}
/**
 * Who has a link that works, as they are reached now; before the first link, or after the last, who the packet is for.
 */
export async function linkHolders(
  ctx: Context,
  packet: Packet,
  client: Client,
  all?: readonly PacketPerson[],
): Promise<LinkHolder[]> {
  const live = (all ?? (await peopleOf(ctx, packet, client))).filter((p) => p.live);
  const people: readonly Pick<PacketPerson, "relationId" | "role">[] =
    live.length > 0 ? live : [{ relationId: packet.relationId ?? undefined, role: "fills" }];
  return inOrder(people, async ({ relationId, role }) => ({
    role,
    recipient: await recipientFor(ctx, client, relationId ?? null, languageOf(client, packet)),
  }));
}
/**
 * A letter with a link to each of them who can be reached, the first with the request's id. Gives how many went out.
 */
export async function writeTo(
  ctx: Context<StaffActor>,
  packet: Packet,
  target: Target,
  people: readonly LinkHolder[],
  kind: "packet" | "nudge" | "sentBack",
  requestId: string,
): Promise<number> {
  const reached = people.filter((p) => p.recipient.contact);
  for (const [index, { recipient, role }] of reached.entries())
    await issueLink(ctx, packet, recipient, target, kind, {
      role,
      ...(index === 0 ? { id: requestId as Id<"Link"> } : {}),
    });
  return reached.length;
}

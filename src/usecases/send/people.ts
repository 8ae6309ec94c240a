import { nameOf } from '../../core/chart';
import type { LinkPart } from '../../core/packet';
import type { Id } from '../../core/shared';
import type { Client, Packet, Relation } from '../../db/repositories';
import type { Context } from '../kit';

/** Somebody who got a link to a packet. */
export interface PacketPerson {
  /** Undefined for the client. */
  readonly relationId: Id<'Relation'> | undefined;
  readonly name: string;
  readonly kind: Relation['kind'] | undefined;
  readonly part: LinkPart;
  /** Every link they ever had to it. */
  readonly links: readonly Id<'Link'>[];
  /** One of them still works. */
  readonly live: boolean;
}

/** Everybody who got a link to this packet, in the order they first did. */
export async function peopleOf({ repo }: Context, packet: Packet, client: Client): Promise<PacketPerson[]> {
  const links = await repo.packets.links(packet), relations = await repo.clients.relations(client.id);
  return [...new Set(links.map((l) => l.relationId))].map((relationId) => {
    const own = links.filter((l) => l.relationId === relationId), relation = relations.find((r) => r.id === relationId);
    return { relationId: relationId ?? undefined, name: nameOf(relation ?? client), kind: relation?.kind, part: own.at(-1)!.part, links: own.map((l) => l.id), live: own.some((l) => !l.revokedAt) };
  });
}

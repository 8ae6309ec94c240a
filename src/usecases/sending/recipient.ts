import { ageOn, contactsOf, foldChart, valueOn } from "../../core/chart";
import { maskContact } from "../../core/messages";
import { detailsOnFile, doorFor, type Door, type DoorPerson, type DoorPolicy, type DoorWay } from "../../core/packet";
import type { FillerKind } from "../../core/signing";
import type { Id } from "../../core/shared";
import { dayIn, type Day } from "../../core/scheduling";
import type { Client, Packet, Relation } from "../../db/repositories";
import type { Context } from "../kit";

export interface Recipient {
  readonly relationId: Id<"Relation"> | undefined;
  readonly firstName: string;
  readonly name: string;
  /** No longer around the client: not written to, and let in nowhere. */
  readonly ended: boolean;
  /** As a language tag. */
  readonly language: string;
  /** What they are to the client. */
  readonly kind: FillerKind;
  /** "guardian of Noor", or undefined for the client. */
  readonly relation: string | undefined;
  readonly email: string | undefined;
  readonly phone: string | undefined;
  readonly contact: { readonly channel: "email" | "text"; readonly to: string; readonly masked: string } | undefined;
}
const ageOfMajority = 18;

/**
 * What a client reads a packet in: as they chose on the page of their link, as was chosen when it was sent, or their
 * own language.
 */
export const languageOf = (
  client: Pick<Client, "language">,
  packet: { readonly language: string | null },
  link?: { readonly language: string | null },
): string => link?.language ?? packet.language ?? client.language;

/**
 * Who a packet for this client goes to: the client, or for somebody under 18 with a guardian or parent on file, that
 * person. Who is no longer around the client cannot be reached.
 */
export const recipientFor = async (
  ctx: Context,
  client: Client,
  relationId?: Id<"Relation"> | null,
  language: string = client.language,
): Promise<Recipient> =>
  recipientAmong(
    dayIn(ctx.now, ctx.practice.zone),
    client,
    await ctx.repo.relations.ofClient(client.id),
    relationId,
    language,
  );

/**
 * Whom a letter for this client goes to, of those around them, and by which way: as little as is needed to look at
 * thousands.
 */
export function reachedBy(
  today: Day,
  client: Client,
  relations: readonly Relation[],
  relationId?: Id<"Relation"> | null,
): { readonly relation: Relation | undefined; readonly contact: ReturnType<typeof contactsOf> } {
  const asked = () => {
    if (relationId) return relations.find((r) => r.id === relationId);
    const minor = client.birthDate !== undefined && ageOn(client.birthDate, today) < ageOfMajority;
    if (minor && relationId === undefined)
      return relations.find((r) => !r.ended && (r.kind === "guardian" || r.kind === "parent"));
    return undefined;
  };
  const relation = asked();
  const person = relation ?? client;
  return { relation, contact: relation?.ended ? undefined : contactsOf(person, person.prefers) };
}
function recipientAmong(
  today: Day,
  client: Client,
  relations: readonly Relation[],
  relationId: Id<"Relation"> | null | undefined,
  language: string,
): Recipient {
  const { relation, contact } = reachedBy(today, client, relations, relationId);
  const person = relation ?? client;
  return {
    relationId: relation?.id,
    ended: relation?.ended ?? false,
    language,
    firstName: relation ? relation.firstName : (client.preferredName ?? client.firstName),
    name: `${person.firstName} ${person.lastName}`,
    kind: relation?.kind ?? "client",
    relation: relation && `${relation.kind} of ${client.firstName}`,
    email: person.email,
    phone: person.phone,
    contact: contact && { ...contact, masked: maskContact(contact.channel, contact.to) },
  };
}

/** What is known of somebody at the door of a client's packet. */
export async function doorPerson(
  ctx: Context,
  policy: DoorPolicy,
  client: Client,
  { contact, email, phone }: Pick<DoorPerson, "contact" | "email" | "phone">,
): Promise<DoorPerson> {
  return { contact, email, phone, details: detailsOnFile(policy.details, await detailsOf(ctx, policy, client)) };
}
/** What the practice knows of a client that is asked at a door. */
export async function detailsOf(
  { repo }: Context,
  { details }: DoorPolicy,
  client: Client,
): Promise<{ readonly birthDate?: string; readonly lastName: string; readonly address?: string | undefined }> {
  const { birthDate, lastName } = client;
  const known = { lastName, ...(birthDate ? { birthDate } : {}) };
  return details === "postcode"
    ? { ...known, address: valueOn(foldChart(await repo.charts.entries(client.id)), "address") }
    : known;
}
/**
 * How this person opens a packet: as it says, or the practice; and never by the link alone where it begins with the
 * chart.
 */
export async function doorOf(
  ctx: Context,
  policy: DoorPolicy,
  packet: Pick<Packet, "id" | "door">,
  client: Client,
  recipient: Recipient,
): Promise<Door> {
  const holdsChart =
    (packet.door ?? policy.way) === "none" && (await ctx.repo.packets.parts(packet.id)).some((p) => p.prefill);
  return doorFor(policy, packet.door, await doorPerson(ctx, policy, client, recipient), holdsChart);
}
/** The door somebody would find, of a packet that is not made yet. */
export async function doorBefore(
  ctx: Context,
  client: Client,
  recipient: Recipient,
  own?: DoorWay,
  holdsChart = false,
): Promise<Door> {
  const policy = await ctx.repo.practices.door(ctx.practice.id);
  return doorFor(policy, own ?? null, await doorPerson(ctx, policy, client, recipient), holdsChart);
}

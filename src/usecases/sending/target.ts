import { object } from "yup";
import {
  aboutSentence,
  clientNameIn,
  doorSentence,
  type Door,
  type LinkRole,
  type PagePolicy,
} from "../../core/packet";
import { fail, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import { dateWords } from "../../core/questionnaire";
import { addDays, boundsOf, dayIn, daysBetween, isDay, type Day } from "../../core/scheduling";
import { isHere, type Client, type Packet, type Visit } from "../../db/repositories";
import { idInput, notFound, type CommonError, type Context, type StaffActor } from "../kit";
import { dayWords, letterLocale, sendLetter, visitMoment } from "./letters";
import { doorOf, languageOf, type Recipient } from "./recipient";

export const targetInput = object({ visitId: idInput<"Visit">().optional(), clientId: idInput<"Client">().optional() });
export interface Target {
  readonly client: Client;
  readonly visit: Visit | undefined;
  /** Who the answers are for: the visit's practitioner, else who sends. */
  readonly staffId: Id<"Staff">;
  readonly practitioner: string;
}
/** Somebody to send to: for a visit, or without one. */
export async function targetOf(
  ctx: Context<StaffActor>,
  { visitId, clientId }: { readonly visitId?: Id<"Visit"> | undefined; readonly clientId?: Id<"Client"> | undefined },
): Promise<Result<Target, CommonError>> {
  const { repo, practice, actor } = ctx;
  const visit = visitId && (await repo.visits.byId(practice.id, visitId));
  if (visit && (visit.cancelledAt !== null || !isHere(visit.client))) return notFound;
  if (visit) return ok({ client: visit.client, visit, staffId: visit.staffId, practitioner: visit.staffName });
  const client = clientId && !visitId ? await repo.clients.byId(practice.id, clientId) : undefined;
  return client && isHere(client)
    ? ok({ client, visit: undefined, staffId: actor.id, practitioner: actor.name })
    : notFound;
}
/** The one a packet was sent to. */
export async function targetOfPacket({ repo, practice }: Context, packet: Packet): Promise<Target | undefined> {
  const visit = packet.visitId ? await repo.visits.byId(practice.id, packet.visitId) : undefined;
  const client = visit?.client ?? (await repo.clients.byId(practice.id, packet.clientId));
  return (
    client && {
      client,
      visit,
      staffId: packet.staffId,
      practitioner: visit?.staffName ?? (await repo.staff.byId(packet.staffId))?.name ?? practice.name,
    }
  );
}

const dayMs = 86_400_000;
/** The day a link runs out unless another one is chosen. */
export const usualExpiry = ({ now, practice }: Context): Day =>
  dayIn(laterBy(now, practice.linkDays * dayMs), practice.zone);
const mostDays = 366;
/** The end of a chosen day in the practice's zone. A day that is over, or more than a year away, is refused. */
export function endOf(ctx: Context, day: Day): Result<Instant, CommonError> {
  const today = dayIn(ctx.now, ctx.practice.zone);
  if (!isDay(day) || daysBetween(today, day) < 0 || daysBetween(today, day) > mostDays)
    return fail({
      reason: "invalid",
      fields: {
        expiresOn: `Choose a day from today on, within a year: until ${dateWords(addDays(today, mostDays), ctx.practice.locale)}.`,
      },
    });
  return ok(laterBy(boundsOf(day, ctx.practice.zone)[1], -1));
}

/** The first letter of a packet speaks of the visit where there is one. */
export const letterKindFor = ({ visit }: Target) => (visit ? "packetForVisit" : "packet");

/** What stands for the placeholders of a letter about a packet. */
export function letterValues(
  ctx: Context,
  { visit, client, practitioner }: Target,
  packet: Pick<Packet, "expiresAt" | "language">,
  link: string,
  door: Door,
  recipient: Pick<Recipient, "relationId" | "language">,
  named: PagePolicy["clientNamed"] = "first-name",
) {
  const zone = client.zone ?? ctx.practice.zone;
  const locale = letterLocale(ctx, languageOf(client, packet));
  const other = recipient.relationId !== undefined;
  const name = other ? clientNameIn(named, door, client) : client.firstName;
  return {
    "client.firstName": name,
    door: doorSentence(door, recipient.language),
    about: other ? aboutSentence(name, recipient.language) : "",
    "practitioner.name": practitioner,
    ...(visit ? { "visit.when": visitMoment(visit.startsAt, zone, locale, ctx.practice.zone) } : {}),
    link,
    expires: dayWords(packet.expiresAt, zone, locale),
  };
}

type Linked = Pick<Packet, "id" | "expiresAt" | "language" | "leaflets" | "door">;
interface LinkWishes {
  readonly role?: LinkRole;
  readonly id?: Id<"Link">;
  readonly line?: string | undefined;
  /** What it opens shows nothing that was there before. */
  readonly unseen?: boolean;
}
/**
 * Makes a personal link and writes the letter that carries it. The token is in the letter only; its digest is stored.
 */
export async function issueLink(
  ctx: Context<StaffActor>,
  packet: Linked,
  recipient: Recipient,
  target: Target,
  kind: "packet" | "nudge" | "sentBack" | "takeHome",
  { line, ...wishes }: LinkWishes = {},
): Promise<void> {
  const token = ctx.random.token();
  const policy = await ctx.repo.practices.door(ctx.practice.id);
  const door = await doorOf(ctx, policy, packet, target.client, recipient);
  const { clientNamed } = await ctx.repo.practices.pages(ctx.practice.id);
  const messageId = await sendLetter(
    ctx,
    kind === "packet" ? letterKindFor(target) : kind,
    packet.id,
    recipient,
    letterValues(ctx, target, packet, `${ctx.origin}/p/${token}`, door, recipient, clientNamed),
    line,
    kind === "packet" ? packet.leaflets : [],
  );
  await addLink(ctx, packet, recipient, token, messageId, wishes);
}
/** Makes a personal link that goes out in no letter of ours. */
export async function bareLink(
  ctx: Context<StaffActor>,
  packet: Linked,
  recipient: Recipient,
  wishes: LinkWishes,
): Promise<string> {
  const token = ctx.random.token();
  await addLink(ctx, packet, recipient, token, null, wishes);
  return `${ctx.origin}/p/${token}`;
}
/** Another address for a link that went out in no letter of ours; whose it is stays, and what they answered. */
export async function renewLink(ctx: Context<StaffActor>, id: Id<"Link">): Promise<string> {
  const token = ctx.random.token();
  await ctx.repo.links.renew(id, ctx.sealer.keyedDigest("link", token));
  return `${ctx.origin}/p/${token}`;
}
const addLink = (
  ctx: Context<StaffActor>,
  packet: Linked,
  { relationId }: Recipient,
  token: string,
  messageId: Id<"Message"> | null,
  { role = "fills", id = ctx.random.id<"Link">(), unseen = false }: LinkWishes,
): Promise<void> =>
  ctx.repo.links.add({
    id,
    packetId: packet.id,
    relationId: relationId ?? null,
    role,
    digest: ctx.sealer.keyedDigest("link", token),
    createdAt: ctx.now,
    unseen,
    messageId,
  });

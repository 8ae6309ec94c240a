import {
  alertLetter,
  alertOpenLetter,
  contactLetter,
  anchorLetter,
  bouncedLetter,
  inviteLetter,
  resetLetter,
  triedLetter,
  openedLetter,
  tryOutLetter,
  fillWording,
  lettersFor,
  lockedLetter,
  mustHave,
  signingLetter,
  withdrawnLetter,
  type LetterKind,
  type Placeholder,
  type PostPurpose,
  type Wording,
} from "../../core/messages";
import { dateFormat, instantMs, type Id, type Instant, mainLanguage } from "../../core/shared";
import type { Context } from "../kit";
import type { Packet } from "../../db/repositories";
import type { Recipient } from "./recipient";

/**
 * "Wednesday 25 November, 14:30" in a zone, in the reader's way of writing; where it is not the practice's, the zone is
 * named.
 */
export const visitMoment = (at: Instant, zone: string, locale: string, practiceZone: string): string =>
  dateFormat(locale, {
    ...(zone === practiceZone ? {} : { timeZoneName: "long" }),
    weekday: "long",
    day: "numeric",
    month: "long",
    hour: "2-digit",
    minute: "2-digit",
    timeZone: zone,
  }).format(instantMs(at));
export const dayWords = (at: Instant, zone: string, locale: string): string =>
  dateFormat(locale, { day: "numeric", month: "long", timeZone: zone }).format(instantMs(at));

const purposes: Readonly<Record<LetterKind, PostPurpose>> = {
  packet: "packet",
  packetForVisit: "packet",
  nudge: "nudge",
  sentBack: "sent-back",
  sign: "sign",
  signed: "signed",
  takeHome: "take-home",
  code: "code",
};
/** How dates are written for a reader: English as the practice writes it. */
export const letterLocale = (ctx: Pick<Context, "practice">, language: string): string =>
  mainLanguage(language) === mainLanguage(ctx.practice.locale) ? ctx.practice.locale : language;

/** A letter in the practice's words, or the starting ones, in a reader's language. */
export async function wordingOf(
  { repo, practice }: Context,
  kind: LetterKind,
  way: "email" | "text",
  language: string,
): Promise<Wording> {
  const main = mainLanguage(language);
  const own = (await repo.wordings.all(practice.id)).find(
    (w) => w.kind === kind && w.way === way && w.language === main,
  );
  return own ?? lettersFor(language)[kind][way];
}

type Values = Partial<Record<Placeholder, string>>;
/**
 * What a letter says to its recipient. Wordings are checked before they are kept, so a failure here is a bug. @param
 * line a line to this person, under the greeting.
 */
export async function letterTo(
  ctx: Context,
  kind: LetterKind,
  recipient: Pick<Recipient, "firstName" | "language">,
  way: "email" | "text",
  values: Values,
  line?: string,
): Promise<Wording> {
  const filled = fillWording(
    await wordingOf(ctx, kind, way, recipient.language),
    { "practice.name": ctx.practice.name, "recipient.firstName": recipient.firstName, ...values },
    [mustHave(kind)],
  );
  if (!filled.ok) throw new Error(`A wording does not fill: ${filled.error.names.join(", ")}`);
  const body = line ? withLine(filled.value.body, line, way) : filled.value.body;
  return { subject: filled.value.subject, body: way === "email" ? withAddress(body, ctx.practice) : body };
}
/** Whose letter it is, under it, where the practice has an address and the wording does not say it. */
const withAddress = (body: string, { name, address }: Context["practice"]): string =>
  address.trim() === "" || body.includes(address.trim()) ? body : `${body}\n\n${name}\n${address.trim()}`;
/** Sends a letter to its recipient, in their language, by the way they are reached. */
export async function sendLetter(
  ctx: Context,
  kind: LetterKind,
  packetId: Id<"Packet"> | null,
  recipient: Recipient,
  values: Values,
  line?: string,
  leaflets: readonly Id<"Leaflet">[] = [],
  more: readonly { readonly id: Id<"File">; readonly title: string }[] = [],
): Promise<Id<"Message">> {
  const { contact } = recipient;
  if (!contact) throw new Error("Nobody to send to; the caller must have asked.");
  const letter = await letterTo(ctx, kind, recipient, contact.channel, values, line);
  return ctx.send({
    channel: contact.channel,
    to: contact.to,
    toName: recipient.name,
    ...letter,
    purpose: purposes[kind],
    packetId,
    ...(leaflets.length + more.length > 0 ? { files: [...(await filesOf(ctx, leaflets)), ...more] } : {}),
  });
}
/** The files behind leaflets. */
export const filesOf = async (
  { repo, practice }: Context,
  ids: readonly Id<"Leaflet">[],
): Promise<{ id: Id<"File">; title: string }[]> =>
  (await repo.leaflets.all(practice.id))
    .filter((l) => ids.includes(l.id))
    .map((l) => ({ id: l.fileId, title: l.title }));
/**
 * In a mail it stands as a paragraph of its own after the greeting, in a text at the end. What it says is never read as
 * a placeholder.
 */
function withLine(body: string, line: string, channel: "email" | "text"): string {
  const at = body.indexOf("\n\n");
  return channel === "text" || at < 0 ? `${body} ${line}` : `${body.slice(0, at)}\n\n${line}${body.slice(at)}`;
}

interface Addressee {
  readonly to: string;
  readonly toName: string;
}
interface Reader {
  readonly name: string;
  readonly email: string;
}
/** A letter to the practitioner, or, without one, to the practice. */
async function sendToStaff(
  ctx: Context,
  purpose: "locked" | "alert",
  wording: Wording,
  packetId: Id<"Packet">,
  staff: Reader | undefined,
  path: string,
): Promise<void> {
  const reader = staff ?? { name: ctx.practice.name, email: ctx.practice.email };
  await ctx.send({
    channel: "email",
    ...staffLetter(wording, reader, ctx.practice.name, `${ctx.origin}${path}`),
    purpose,
    packetId,
  });
}
function staffLetter(wording: Wording, reader: Reader, practiceName: string, link: string): Wording & Addressee {
  const values = { "practice.name": practiceName, "practitioner.name": reader.name, link };
  const filled = fillWording(wording, values, ["link"]);
  if (!filled.ok) throw new Error(`A wording does not fill: ${filled.error.names.join(", ")}`);
  return { to: reader.email, toName: reader.name, subject: filled.value.subject, body: filled.value.body };
}
/** To who sent a letter that bounced. */
export const bouncedLetterTo = (sender: Reader, practiceName: string, link: string): Wording & Addressee =>
  staffLetter(bouncedLetter, sender, practiceName, link);
/** To an owner, with where the journal stands. */
export const anchorLetterTo = (
  owner: Reader,
  practiceName: string,
  link: string,
  anchor: string,
): Wording & Addressee =>
  staffLetter({ ...anchorLetter, body: anchorLetter.body.replace("{{anchor}}", anchor) }, owner, practiceName, link);
/** To an owner, when alerts stay open for longer than the practice allows. */
export const alertOpenLetterTo = (owner: Reader, practiceName: string, link: string): Wording & Addressee =>
  staffLetter(alertOpenLetter, owner, practiceName, link);
/** To whose account somebody keeps trying passwords for. */
export async function sendTriedLetter(ctx: Context, staff: Reader): Promise<void> {
  const letter = staffLetter(triedLetter, staff, ctx.practice.name, `${ctx.origin}/office`);
  await ctx.send({ channel: "email", ...letter, purpose: "tried", packetId: null });
}
/** With what somebody sets their password: an invitation, or because they forgot it. `path` holds what it takes. */
export async function sendTicketLetter(
  ctx: Context,
  kind: "invite" | "reset",
  staff: Reader,
  path: string,
): Promise<void> {
  const wording = kind === "invite" ? inviteLetter : resetLetter;
  const letter = staffLetter(wording, staff, ctx.practice.name, `${ctx.origin}${path}`);
  await ctx.send({ channel: "email", ...letter, purpose: kind, packetId: null });
}
/** To oneself, to see that letters arrive. */
export async function sendTryOutLetter(ctx: Context, staff: Reader): Promise<void> {
  const letter = staffLetter(tryOutLetter, staff, ctx.practice.name, `${ctx.origin}/day`);
  await ctx.send({ channel: "email", ...letter, purpose: "try-out", packetId: null });
}
export const sendLockedLetter = (ctx: Context, packetId: Id<"Packet">, staff: Reader | undefined): Promise<void> =>
  sendToStaff(ctx, "locked", lockedLetter, packetId, staff, `/packets/${packetId}`);
/** Somebody who was to sign does not, or would rather on paper; or took back what they had agreed to. */
export const sendSigningLetter = (
  ctx: Context,
  { id, clientId }: Pick<Packet, "id" | "clientId">,
  why: "sign" | "withdrawn",
  staff: Reader | undefined,
): Promise<void> =>
  why === "sign"
    ? sendToStaff(ctx, "alert", signingLetter, id, staff, `/returns/${id}/signing`)
    : sendToStaff(ctx, "alert", withdrawnLetter, id, staff, `/people/${clientId}/consents`);
export const sendAlertLetter = (ctx: Context, packetId: Id<"Packet">, staff: Reader | undefined): Promise<void> =>
  sendToStaff(ctx, "alert", alertLetter, packetId, staff, `/returns/${packetId}`);
/** To owners and to whose client somebody else opened. The letter is about no packet: whose it is stands in the app. */
export async function sendOpenedLetter(ctx: Context, staff: Reader, clientId: Id<"Client">): Promise<void> {
  const letter = staffLetter(openedLetter, staff, ctx.practice.name, `${ctx.origin}/people/${clientId}/reach`);
  await ctx.send({ channel: "email", ...letter, purpose: "opened", packetId: null });
}
/** Tells somebody, where they were reached until now, that they are reached elsewhere. Once for each way. */
export async function sendContactChanged(
  ctx: Context,
  before: { readonly email?: string | undefined; readonly phone?: string | undefined; readonly language: string },
  now: { readonly email?: string | undefined; readonly phone?: string | undefined },
  toName: string,
): Promise<void> {
  const filled = fillWording(contactLetter(before.language), { "practice.name": ctx.practice.name }, []);
  if (!filled.ok) throw new Error("The letter about changed contacts does not fill.");
  const { subject, body } = filled.value;
  const ways = [
    { channel: "email" as const, to: before.email, isSame: before.email === now.email },
    { channel: "text" as const, to: before.phone, isSame: before.phone === now.phone },
  ];
  for (const { channel, to, isSame } of ways)
    if (to && !isSame) await ctx.send({ channel, to, toName, subject, body, purpose: "contact", packetId: null });
}

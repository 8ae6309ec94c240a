import { object, string } from 'yup';
import { codeSchema } from '../../core/forms';
import { isOpen, after, stateAt } from '../../core/packet';
import { fail, instantMs, isBefore, isLanguageTag, laterBy, ok, type Id, type Instant, type Result } from '../../core/shared';
import type { Packet, PersonalLink } from '../../db/repositories';
import { command, query, type Context } from '../kit';
import { sendLetter, sendLockedLetter } from '../send/letters';
import { languageOf, recipientFor, type Recipient } from '../send/recipient';

const codeMinutes = 10;
const tries = 5;
const resendSeconds = 30;
const codesPerHour = 6;
const passHours = 12;

/** `closed` covers unknown, expired, withdrawn, replaced and returned alike: a stranger learns nothing from it. */
export type DoorError =
  | { readonly reason: 'closed' } | { readonly reason: 'locked' }
  | { readonly reason: 'wrong-code'; readonly left: number } | { readonly reason: 'code-expired' }
  | { readonly reason: 'wait'; readonly seconds: number } | { readonly reason: 'too-many' };

const languageInput = string().max(35).optional().test('language', 'Choose a language.', (tag) => tag === undefined || isLanguageTag(tag));
const tokenInput = string().matches(/^[\w-]{20,100}$/).required();

interface Door {
  readonly link: PersonalLink;
  readonly packet: Packet;
  readonly recipient: Recipient;
}
/** @param language as the page was switched to; else what the link, the packet or the client says. */
async function findDoor(ctx: Context, token: string, forUpdate: boolean, language?: string): Promise<Result<Door, DoorError>> {
  const found = await ctx.repo.packets.linkByDigest(ctx.sealer.mark('link', token), forUpdate);
  const client = found && (await ctx.repo.clients.byId(ctx.practice.id, found.packet.clientId));
  if (!found || !client || found.link.revokedAt || !isOpen(stateAt(found.packet.state, found.packet.expiresAt, ctx.now))) return fail({ reason: 'closed' });
  if (found.link.lockedAt) return fail({ reason: 'locked' });
  return ok({ ...found, recipient: await recipientFor(ctx, client, found.packet.relationId, language ?? languageOf(client, found.packet, found.link)) });
}

export interface DoorView {
  readonly practiceName: string;
  readonly channel: 'email' | 'text';
  readonly masked: string;
  /** The client's, as a language tag: the door speaks it before anybody proved anything. */
  readonly language: string;
  /** A code is out and still good. */
  readonly codeOut: boolean;
}
/** What stands on the page behind a personal link before anybody proved anything: no name, no questionnaire. */
export const openLink = query({
  name: 'open-link', access: 'anyone', input: object({ token: tokenInput }),
  async run(ctx, { token }): Promise<Result<DoorView, DoorError>> {
    const door = await findDoor(ctx, token, false);
    if (!door.ok) return door;
    const { link, recipient } = door.value;
    if (!recipient.contact) return fail({ reason: 'closed' });
    return ok({
      practiceName: ctx.practice.name, channel: recipient.contact.channel, masked: recipient.contact.masked, language: recipient.language,
      codeOut: link.codeDigest !== null && link.codeExpiresAt !== null && isBefore(ctx.now, link.codeExpiresAt),
    });
  },
});

/** Sends a fresh code to the contact on file; an earlier one stops working. */
export const sendCode = command({
  name: 'send-code', access: 'anyone', input: object({ token: tokenInput, language: languageInput }),
  async run(ctx, { token, language }): Promise<Result<null, DoorError>> {
    const door = await findDoor(ctx, token, true, language);
    if (!door.ok) return door;
    const { link, packet, recipient } = door.value;
    const waited = link.codeSentAt ? (instantMs(ctx.now) - instantMs(link.codeSentAt)) / 1000 : Infinity;
    if (waited < resendSeconds) return fail({ reason: 'wait', seconds: Math.ceil(resendSeconds - waited) });
    if (!(await withinCodeLimits(ctx, link.id))) return fail({ reason: 'too-many' });
    if (link.messageId) await ctx.repo.post.markOpened(link.messageId, ctx.now);
    const code = ctx.random.code();
    await ctx.repo.packets.updateLink(link.id, {
      codeDigest: ctx.sealer.mark(`code:${link.id}`, code), codeSentAt: ctx.now, codeExpiresAt: laterBy(ctx.now, codeMinutes * 60_000), codesSent: link.codesSent + 1,
    });
    await sendLetter(ctx, 'code', packet.id, recipient, { code });
    ctx.journal('door.code-sent', `packet:${packet.id}`, { channel: recipient.contact?.channel ?? 'none' });
    return ok(null);
  },
});
async function withinCodeLimits(ctx: Context, linkId: string): Promise<boolean> {
  const start = laterBy(ctx.now, -3_600_000);
  const perLink = await ctx.repo.staff.countTry(`door:link:${linkId}`, ctx.now, start);
  const perAddress = await ctx.repo.staff.countTry(`door:address:${ctx.sealer.mark('limit', ctx.actor.address)}`, ctx.now, start);
  return perLink <= codesPerHour && perAddress <= codesPerHour * 10;
}

/**
 * A code typed at the door. Five wrong ones in a row, over however many codes, lock the link: the client is told
 * plainly, the practitioner gets a letter, and only a fresh link opens it again.
 */
export const checkCode = command({
  name: 'check-code', access: 'anyone', input: object({ token: tokenInput, language: languageInput }).concat(codeSchema),
  async run(ctx, { token, code, language }): Promise<Result<{ packetId: Id<'Packet'>; passToken: string; expiresAt: Instant }, DoorError>> {
    const { repo, now, sealer } = ctx;
    const door = await findDoor(ctx, token, true);
    if (!door.ok) return door;
    const { link, packet } = door.value;
    if (!link.codeDigest || !link.codeExpiresAt || !isBefore(now, link.codeExpiresAt)) return fail({ reason: 'code-expired' });
    if (link.codeDigest !== sealer.mark(`code:${link.id}`, code)) {
      const wrongCodes = link.wrongCodes + 1;
      if (wrongCodes >= tries) {
        await lock(ctx, door.value, wrongCodes);
        return fail({ reason: 'locked' });
      }
      await repo.packets.updateLink(link.id, { wrongCodes });
      ctx.journal('door.wrong-code', `packet:${packet.id}`, { left: tries - wrongCodes });
      return fail({ reason: 'wrong-code', left: tries - wrongCodes });
    }
    const passToken = ctx.random.token();
    const expiresAt = laterBy(now, passHours * 3_600_000);
    await repo.packets.updateLink(link.id, { codeDigest: null, codeExpiresAt: null, codeSentAt: null, wrongCodes: 0, ...(language ? { language } : {}) });
    await repo.packets.addPass({ digest: sealer.mark('pass', passToken), packetId: packet.id, linkId: link.id, createdAt: now, expiresAt });
    const state = after(packet.state, 'pass-door');
    if (state) await repo.packets.update(packet.id, { state, openedAt: packet.openedAt ?? now });
    ctx.journal('door.passed', `packet:${packet.id}`, { device: ctx.actor.device.slice(0, 200) });
    ctx.tell('returns');
    return ok({ packetId: packet.id, passToken, expiresAt });
  },
});

async function lock(ctx: Context, { link, packet }: Door, wrongCodes: number): Promise<void> {
  const { repo, now } = ctx;
  await repo.packets.updateLink(link.id, { wrongCodes, lockedAt: now, codeDigest: null });
  await repo.packets.update(packet.id, { lockedAt: now });
  await sendLockedLetter(ctx, packet.id, await repo.staff.byId(packet.staffId));
  ctx.journal('door.locked', `packet:${packet.id}`, { wrongCodes });
  ctx.tell('returns');
}

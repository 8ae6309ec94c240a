import { boolean, object, string } from 'yup';
import { after, isOpen, stateAt } from '../../core/packet';
import { fail, instantMs, ok, type Id, type Instant, type Result } from '../../core/shared';
import type { Packet } from '../../db/repositories';
import { command, idInput, notFound, requestInput, type Context, type StaffActor } from '../kit';
import { languageOf, recipientFor, type Recipient } from './recipient';
import type { SendError } from './send-packet';
import { endOf, issueLink, targetOfPacket, usualExpiry, type Target } from './target';

/** What may be done to a packet that is out. */
type CareError = SendError | { readonly reason: 'closed' };
const closed = fail({ reason: 'closed' as const });

interface Held { readonly packet: Packet; readonly target: Target; readonly recipient: Recipient }
/** A packet that can still be answered, or could until its link ran out, held for a change. */
async function holdOpen(ctx: Context<StaffActor>, packetId: Id<'Packet'>): Promise<Result<Held, CareError>> {
  const packet = await ctx.repo.packets.byId(ctx.practice.id, packetId, true);
  const target = packet && (await targetOfPacket(ctx, packet));
  if (!packet || !target) return notFound;
  const state = stateAt(packet.state, packet.expiresAt, ctx.now);
  if (!isOpen(state) && state !== 'lapsed') return closed;
  return ok({ packet, target, recipient: await recipientFor(ctx, target.client, packet.relationId, languageOf(target.client, packet)) });
}

/** A fresh link, which takes the request's id, so that pressing twice makes one: the old one and every device it let in are shut out, a lock is lifted, and the time to answer starts anew. Answers stay. */
export const reissueLink = command({
  name: 'reissue-link', access: 'packet.send', input: object({ packetId: idInput<'Packet'>(), requestId: requestInput }),
  async run(ctx, { packetId, requestId }): Promise<Result<null, CareError>> {
    const { repo, now } = ctx;
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    if (await repo.packets.hasLink(packetId, requestId as Id<'Link'>)) {
      ctx.journal('packet.reissue-repeated', `packet:${packetId}`);
      return ok(null);
    }
    const { recipient, target, packet } = held.value;
    if (!recipient.contact) return fail({ reason: 'no-contact' });
    const expiry = endOf(ctx, usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    await repo.packets.revokeLinks(packetId, now);
    await repo.packets.update(packetId, { expiresAt: expiry.value, lockedAt: null });
    await issueLink(ctx, { ...packet, expiresAt: expiry.value }, recipient, target, packet.state === 'sent-back' ? 'sentBack' : 'packet', requestId as Id<'Link'>);
    ctx.journal('packet.reissue', `packet:${packetId}`, { channel: recipient.contact.channel });
    return ok(null);
  },
});

const dayMs = 86_400_000;
/** Reminds with a link of its own; the one they have goes on working. Within a day of the last letter only when that is said to be meant. */
export const nudge = command({
  name: 'nudge', access: 'packet.send', input: object({ packetId: idInput<'Packet'>(), requestId: requestInput, confirmed: boolean().default(false) }),
  async run(ctx, { packetId, requestId, confirmed }): Promise<Result<null, CareError | { readonly reason: 'too-soon'; readonly since: Instant }>> {
    const { repo, now } = ctx;
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    if (await repo.packets.hasLink(packetId, requestId as Id<'Link'>)) {
      ctx.journal('packet.nudge-repeated', `packet:${packetId}`);
      return ok(null);
    }
    const { packet, recipient, target } = held.value;
    if (!isOpen(stateAt(packet.state, packet.expiresAt, now)) || packet.lockedAt) return closed;
    if (!recipient.contact) return fail({ reason: 'no-contact' });
    const last = packet.nudgedAt ?? packet.sentAt ?? packet.createdAt;
    if (!confirmed && instantMs(now) - instantMs(last) < dayMs) return fail({ reason: 'too-soon', since: last });
    await repo.packets.update(packetId, { nudgedAt: now });
    await issueLink(ctx, packet, recipient, target, 'nudge', requestId as Id<'Link'>);
    ctx.journal('packet.nudge', `packet:${packetId}`, { channel: recipient.contact.channel });
    return ok(null);
  },
});

/** Keeps it open until the end of another day; one that lapsed opens again. */
export const extend = command({
  name: 'extend-packet', access: 'packet.send', input: object({ packetId: idInput<'Packet'>(), expiresOn: string().required('Choose a day.') }),
  async run(ctx, { packetId, expiresOn }): Promise<Result<null, CareError>> {
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    const expiry = endOf(ctx, expiresOn);
    if (!expiry.ok) return expiry;
    await ctx.repo.packets.update(packetId, { expiresAt: expiry.value });
    ctx.journal('packet.extend', `packet:${packetId}`, { until: expiresOn });
    return ok(null);
  },
});

/** Takes it back: its links stop working and nothing of it can be answered any more. What was answered stays with the packet, unread. */
export const withdraw = command({
  name: 'withdraw-packet', access: 'packet.send', input: object({ packetId: idInput<'Packet'>() }),
  async run(ctx, { packetId }): Promise<Result<null, CareError>> {
    const { repo, practice, now } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId, true);
    if (!packet) return notFound;
    if (packet.state === 'withdrawn') {
      ctx.journal('packet.withdraw-repeated', `packet:${packetId}`);
      return ok(null);
    }
    const state = after(packet.state, 'withdraw');
    if (!state) return closed;
    await repo.packets.revokeLinks(packetId, now);
    await repo.packets.update(packetId, { state, lockedAt: null });
    ctx.journal('packet.withdraw', `packet:${packetId}`);
    ctx.tell('returns');
    return ok(null);
  },
});

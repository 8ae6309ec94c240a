import { array, object } from 'yup';
import { nameOf } from '../../core/chart';
import { packetStateWords, stateAt, type PacketState } from '../../core/packet';
import type { QuestionnaireKind } from '../../core/questionnaire';
import { fail, laterBy, ok, type Id, type Instant, type Result } from '../../core/shared';
import type { Packet } from '../../db/repositories';
import { command, idInput, inOrder, libraryRight, notFound, query, questionnaireFor, requestInput, type CommonError, type Context, type StaffActor } from '../kit';
import { dayWords, packetWordings, sendWording, visitMoment } from './letters';
import { recipientFor, type Recipient } from './recipient';

export interface SendOptions {
  readonly visitId: Id<'Visit'>;
  readonly clientId: Id<'Client'>;
  readonly clientName: string;
  readonly startsAt: Instant;
  readonly visitType: string;
  readonly practitioner: string;
  readonly recipient: Omit<Recipient, 'contact'> & { readonly channel: 'email' | 'text' | undefined; readonly masked: string | undefined };
  readonly expiresAt: Instant;
  readonly questionnaires: readonly { readonly id: Id<'Questionnaire'>; readonly title: string; readonly kind: QuestionnaireKind; readonly description: string; readonly usual: boolean }[];
  readonly earlier: readonly { readonly id: Id<'Packet'>; readonly state: PacketState; readonly createdAt: Instant }[];
}

const dayMs = 86_400_000;
/** Before anything was sent, this many are taken for what is meant to be sent; of more, the person chooses. */
const mostAtFirst = 3;

/** What can be sent for a visit, to whom it would go, and what would happen. */
export const sendOptions = query({
  name: 'send-options', access: 'packet.send', input: object({ visitId: idInput<'Visit'>() }),
  async run(ctx, { visitId }): Promise<Result<SendOptions, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    const visit = await repo.clients.visit(practice.id, visitId);
    if (!visit) return notFound;
    const { contact, ...recipient } = await recipientFor(ctx, visit.client);
    const inUse = (await repo.questionnaires.all(practice.id, actor.id)).filter((q) => q.state === 'active' && libraryRight(actor, q) !== 'none');
    const order: QuestionnaireKind[] = ['intake', 'consent', 'measure', 'worksheet'];
    const usual = await repo.packets.lastAskedFor(practice.id, visit.visitTypeId);
    inUse.sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || a.title.localeCompare(b.title));
    return ok({
      visitId, clientId: visit.client.id, clientName: nameOf(visit.client), startsAt: visit.startsAt, visitType: visit.visitType, practitioner: visit.staffName,
      recipient: { ...recipient, channel: contact?.channel, masked: contact?.masked },
      expiresAt: laterBy(now, practice.linkDays * dayMs),
      questionnaires: await inOrder(inUse, async (q) => ({
        id: q.id, title: q.title, kind: q.kind, usual: usual.length === 0 ? inUse.length <= mostAtFirst : usual.includes(q.id), description: (q.inUse && (await repo.questionnaires.definition(q.inUse)).description) || '',
      })),
      earlier: (await repo.packets.ofVisits([visitId])).map((p) => ({ id: p.id, state: stateAt(p.state, p.expiresAt, now), createdAt: p.createdAt })),
    });
  },
});

const sendPacketSchema = object({
  requestId: requestInput,
  visitId: idInput<'Visit'>(),
  questionnaireIds: array(idInput<'Questionnaire'>()).min(1, 'Choose at least one questionnaire.').max(20).required(),
});
export type SendError = CommonError | { readonly reason: 'no-contact' } | { readonly reason: 'not-in-use' };

/** Makes the packet, its personal link and its letter in one go. The same request again finds the packet it made. */
export const sendPacket = command({
  name: 'send-packet', access: 'packet.send', input: sendPacketSchema,
  async run(ctx, { requestId, visitId, questionnaireIds }): Promise<Result<{ packetId: Id<'Packet'> }, SendError>> {
    const { repo, practice, now, random } = ctx;
    const visit = await repo.clients.visit(practice.id, visitId);
    if (!visit) return notFound;
    const recipient = await recipientFor(ctx, visit.client);
    if (!recipient.contact) return fail({ reason: 'no-contact' });
    const rows = await inOrder([...new Set(questionnaireIds)], (id) => questionnaireFor(ctx, id, 'use'));
    const versions = rows.flatMap((q) => (q.ok && q.value.state === 'active' && q.value.inUse ? [q.value.inUse] : []));
    if (versions.length !== rows.length) return fail({ reason: 'not-in-use' });

    const packetId = random.id<'Packet'>();
    const expiresAt = laterBy(now, practice.linkDays * dayMs);
    const fresh = await repo.packets.add({
      id: packetId, practiceId: practice.id, requestId, clientId: visit.client.id, relationId: recipient.relationId ?? null, visitId,
      staffId: visit.staffId, state: 'sent', createdAt: now, sentAt: now, expiresAt,
    }, versions.map((versionId, position) => ({ id: random.id<'Part'>(), packetId, versionId, position })));
    if (!fresh) {
      const first = await repo.packets.byRequest(requestId);
      ctx.journal('packet.send-repeated', `packet:${first?.id ?? ''}`);
      return first ? ok({ packetId: first.id }) : notFound;
    }
    await issueLink(ctx, { id: packetId, expiresAt }, recipient, visit);
    ctx.journal('packet.send', `packet:${packetId}`, { questionnaires: versions.length, channel: recipient.contact.channel });
    return ok({ packetId });
  },
});

/** Makes a personal link and writes the letter that carries it. The token is in the letter only; its digest is stored. */
async function issueLink(
  ctx: Context<StaffActor>, packet: { id: Id<'Packet'>; expiresAt: Instant }, recipient: Recipient, visit: { startsAt: Instant; staffName: string; client: { firstName: string; zone: string | null } },
  linkId: Id<'Link'> = ctx.random.id<'Link'>(),
): Promise<void> {
  const token = ctx.random.token();
  await ctx.repo.packets.addLink({ id: linkId, packetId: packet.id, digest: ctx.sealer.mark('link', token), createdAt: ctx.now });
  const zone = visit.client.zone ?? ctx.practice.zone;
  await sendWording(ctx, 'packet', packet.id, recipient, packetWordings, {
    'client.firstName': visit.client.firstName, 'practitioner.name': visit.staffName, 'visit.when': visitMoment(visit.startsAt, zone, ctx.practice.locale),
    link: `${ctx.origin}/p/${token}`, expires: dayWords(packet.expiresAt, zone, ctx.practice.locale),
  }, ['link']);
}

/** A fresh link, which takes the request's id, so that pressing twice makes one: the old one and every device it let in are shut out, a lock is lifted, and the time to answer starts anew. Answers stay. */
export const reissueLink = command({
  name: 'reissue-link', access: 'packet.send', input: object({ packetId: idInput<'Packet'>(), requestId: requestInput }),
  async run(ctx, { packetId, requestId }): Promise<Result<null, SendError | { readonly reason: 'closed' }>> {
    const { repo, practice, now } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId, true);
    if (!packet?.visitId) return notFound;
    if (await repo.packets.hasLink(packetId, requestId as Id<'Link'>)) {
      ctx.journal('packet.reissue-repeated', `packet:${packetId}`);
      return ok(null);
    }
    const state = stateAt(packet.state, packet.expiresAt, now);
    if (state === 'returned' || state === 'settled' || state === 'withdrawn') return fail({ reason: 'closed' });
    const visit = await repo.clients.visit(practice.id, packet.visitId);
    if (!visit) return notFound;
    const recipient = await recipientFor(ctx, visit.client, packet.relationId);
    if (!recipient.contact) return fail({ reason: 'no-contact' });
    const expiresAt = laterBy(now, practice.linkDays * dayMs);
    await repo.packets.revokeLinks(packetId, now);
    await repo.packets.update(packetId, { expiresAt, lockedAt: null });
    await issueLink(ctx, { id: packetId, expiresAt }, recipient, visit, requestId as Id<'Link'>);
    ctx.journal('packet.reissue', `packet:${packetId}`, { channel: recipient.contact.channel });
    return ok(null);
  },
});

/** A packet's journey as staff see it. No answers in it. */
export interface PacketJourney {
  readonly id: Id<'Packet'>;
  readonly clientId: Id<'Client'>;
  readonly clientName: string;
  readonly state: PacketState;
  readonly stateWords: string;
  readonly locked: boolean;
  readonly expiresAt: Instant;
  readonly titles: readonly string[];
  readonly visit: { readonly id: Id<'Visit'>; readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string } | undefined;
  readonly recipient: { readonly name: string; readonly relation: string | undefined; readonly masked: string | undefined };
  readonly steps: readonly { readonly at: Instant; readonly action: string; readonly seq: number }[];
}
export const packetJourney = query({
  name: 'packet-journey', access: 'packet.send', input: object({ packetId: idInput<'Packet'>() }),
  async run(ctx, { packetId }): Promise<Result<PacketJourney, CommonError>> {
    const { repo, practice, now } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId);
    const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
    if (!packet || !client) return notFound;
    const visit = packet.visitId ? await repo.clients.visit(practice.id, packet.visitId) : undefined;
    const recipient = await recipientFor(ctx, client, packet.relationId);
    const state = stateAt(packet.state, packet.expiresAt, now);
    return ok({
      id: packetId, clientId: client.id, clientName: nameOf(client), state, stateWords: packetStateWords[state], locked: packet.lockedAt !== null, expiresAt: packet.expiresAt,
      titles: await titlesOf(ctx, packet),
      visit: visit && { id: visit.id, startsAt: visit.startsAt, visitType: visit.visitType, practitioner: visit.staffName },
      recipient: { name: recipient.name, relation: recipient.relation, masked: recipient.contact?.masked },
      steps: (await repo.journal.latest(practice.id, 200, `packet:${packetId}`)).filter((r) => r.action !== 'answer.save').map(({ at, action, seq }) => ({ at, action, seq })).reverse(),
    });
  },
});
async function titlesOf({ repo }: Context, packet: Packet): Promise<string[]> {
  return inOrder(await repo.packets.parts(packet.id), async (p) => (await repo.questionnaires.definition(p.versionId)).title);
}

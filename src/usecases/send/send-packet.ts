import { array, mixed, object, string } from 'yup';
import { foldChart, nameOf, prefillFrom } from '../../core/chart';
import { doorWays, stateAt, type DoorWay, type PacketState } from '../../core/packet';
import { languagesOf, sourceLanguage, type QuestionnaireKind } from '../../core/questionnaire';
import { fail, isLanguageTag, ok, type Id, type Instant, type Result } from '../../core/shared';
import { isDay, type Day } from '../../core/timetable';
import { command, fieldsOf, idInput, inOrder, libraryRight, notFound, query, questionnaireFor, requestInput, type CommonError, type Context, type StaffActor } from '../kit';
import { letterTo, sendLetter } from './letters';
import { recipientFor, type Recipient } from './recipient';
import { endOf, issueLink, letterKindFor, letterValues, targetInput, targetOf, usualExpiry } from './target';

export interface SendOptions {
  readonly visit: { readonly id: Id<'Visit'>; readonly startsAt: Instant; readonly visitType: string; readonly practitioner: string } | undefined;
  readonly clientId: Id<'Client'>;
  readonly clientName: string;
  readonly recipient: Omit<Recipient, 'contact' | 'email' | 'phone'> & { readonly channel: 'email' | 'text' | undefined; readonly masked: string | undefined };
  /** The last day it can be opened, unless another is chosen. */
  readonly expiresOn: Day;
  /** Of the client, then of the practice. */
  readonly languages: readonly string[];
  /** How the practice's door is opened, unless another way is chosen. */
  readonly door: DoorWay;
  readonly questionnaires: readonly {
    readonly id: Id<'Questionnaire'>; readonly title: string; readonly kind: QuestionnaireKind; readonly description: string; readonly usual: boolean; readonly languages: readonly string[];
    /** How many of its questions the chart could answer. */
    readonly onFile: number;
  }[];
  readonly earlier: readonly { readonly id: Id<'Packet'>; readonly state: PacketState; readonly createdAt: Instant }[];
}

/** Before anything was sent, this many are taken for what is meant to be sent; of more, the person chooses. */
const mostAtFirst = 3;

/** What can be sent to somebody, to whom it would go, and what would happen. */
export const sendOptions = query({
  name: 'send-options', access: 'packet.send', input: targetInput,
  async run(ctx, input): Promise<Result<SendOptions, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    const target = await targetOf(ctx, input);
    if (!target.ok) return target;
    const { client, visit } = target.value;
    const { contact, email: _email, phone: _phone, ...recipient } = await recipientFor(ctx, client);
    const inUse = (await repo.questionnaires.all(practice.id, actor.id)).filter((q) => q.state === 'active' && libraryRight(actor, q) !== 'none');
    const order: QuestionnaireKind[] = ['intake', 'consent', 'measure', 'worksheet'];
    const usual = visit ? await repo.packets.lastAskedFor(practice.id, visit.visitTypeId) : [];
    inUse.sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || a.title.localeCompare(b.title));
    const chart = foldChart(await repo.charts.entries(client.id)), fields = await fieldsOf(ctx);
    const earlier = visit ? await repo.packets.ofVisits([visit.id]) : [];
    return ok({
      visit: visit && { id: visit.id, startsAt: visit.startsAt, visitType: visit.visitType, practitioner: visit.staffName }, clientId: client.id, clientName: nameOf(client),
      recipient: { ...recipient, channel: contact?.channel, masked: contact?.masked },
      door: (await repo.practices.door(practice.id)).way, expiresOn: usualExpiry(ctx), languages: [...new Set([client.language, practice.locale.split('-')[0]!])],
      questionnaires: await inOrder(inUse, async (q) => {
        const definition = await repo.questionnaires.definition(q.inUse!);
        return {
          id: q.id, title: q.title, kind: q.kind, usual: visit !== undefined && (usual.length === 0 ? inUse.length <= mostAtFirst : usual.includes(q.id)), description: definition.description ?? '',
          languages: [sourceLanguage(definition), ...languagesOf(definition)], onFile: prefillFrom(definition, chart, fields).filter((c) => c.kind === 'values').length,
        };
      }),
      earlier: earlier.map((p) => ({ id: p.id, state: stateAt(p.state, p.expiresAt, now), createdAt: p.createdAt })),
    });
  },
});

const chosen = array(idInput<'Questionnaire'>()).min(1, 'Choose at least one questionnaire.').max(20).required();
const languageInput = string().max(35).optional().test('language', 'Choose a language.', (tag) => tag === undefined || isLanguageTag(tag));
const lineInput = string().trim().max(500, 'Keep the line under 500 characters.').optional();
const sendPacketSchema = targetInput.concat(object({
  requestId: requestInput, questionnaireIds: chosen,
  /** Those of them to begin with what is on file. */
  prefillIds: array(idInput<'Questionnaire'>()).max(20).default([]),
  expiresOn: string().max(10).optional(), dueOn: string().optional().test('day', 'Choose a day.', (d) => d === undefined || isDay(d)), language: languageInput, line: lineInput, door: mixed<DoorWay>().oneOf([...doorWays]).optional(),
}));
export type SendError = CommonError | { readonly reason: 'no-contact' } | { readonly reason: 'not-in-use' };

/** Makes the packet, its personal link and its letter in one go. The same request again finds the packet it made. */
export const sendPacket = command({
  name: 'send-packet', access: 'packet.send', input: sendPacketSchema,
  async run(ctx, { requestId, questionnaireIds, prefillIds, expiresOn, dueOn, language, line, door, ...target }): Promise<Result<{ packetId: Id<'Packet'> }, SendError>> {
    const { repo, practice, now, random } = ctx;
    const found = await targetOf(ctx, target);
    if (!found.ok) return found;
    const { client, visit, staffId } = found.value;
    const recipient = await recipientFor(ctx, client, undefined, language);
    if (!recipient.contact) return fail({ reason: 'no-contact' });
    const expiry = endOf(ctx, expiresOn ?? usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    const asked = await versionsOf(ctx, questionnaireIds);
    if (!asked.ok) return asked;

    const packetId = random.id<'Packet'>(), expiresAt = expiry.value;
    const parts = asked.value.map(({ id, versionId }, position) => ({ id: random.id<'Part'>(), packetId, versionId, position, prefill: prefillIds.includes(id) }));
    const fresh = await repo.packets.add({
      id: packetId, practiceId: practice.id, requestId, clientId: client.id, relationId: recipient.relationId ?? null, visitId: visit?.id ?? null,
      staffId, state: 'sent', createdAt: now, sentAt: now, expiresAt, dueOn: dueOn ?? null, language: language ?? null, door: door ?? null, personalLine: line ? repo.packets.seal(packetId, 'personalLine', line) : null,
    }, parts);
    if (!fresh) {
      const first = await repo.packets.byRequest(requestId);
      ctx.journal('packet.send-repeated', `packet:${first?.id ?? ''}`);
      return first ? ok({ packetId: first.id }) : notFound;
    }
    if (parts.some((p) => p.prefill)) {
      const chart = foldChart(await repo.charts.entries(client.id)), fields = await fieldsOf(ctx);
      for (const part of parts) if (part.prefill) await repo.packets.prefill(part.id, prefillFrom(await repo.questionnaires.definition(part.versionId), chart, fields), now);
    }
    await issueLink(ctx, { id: packetId, expiresAt, language: language ?? null }, recipient, found.value, 'packet', undefined, line);
    ctx.journal('packet.send', `packet:${packetId}`, { questionnaires: parts.length, channel: recipient.contact.channel, ...(door ? { door } : {}) });
    return ok({ packetId });
  },
});

/** The versions in use of what was chosen, each once and in its order; refused as a whole where one cannot be sent. */
async function versionsOf(ctx: Context<StaffActor>, ids: readonly Id<'Questionnaire'>[]): Promise<Result<{ id: Id<'Questionnaire'>; versionId: Id<'Version'> }[], SendError>> {
  const rows = await inOrder([...new Set(ids)], (id) => questionnaireFor(ctx, id, 'use'));
  const versions = rows.flatMap((q) => (q.ok && q.value.state === 'active' && q.value.inUse ? [{ id: q.value.id, versionId: q.value.inUse }] : []));
  return versions.length === rows.length ? ok(versions) : fail({ reason: 'not-in-use' });
}

/** The letter as it would be, to whoever sends it, with a link to rehearse the first questionnaire. Nothing goes to the client. */
export const sendTest = command({
  name: 'send-test', access: 'packet.send', input: targetInput.concat(object({ questionnaireIds: chosen, expiresOn: string().max(10).optional(), language: languageInput, line: lineInput })),
  async run(ctx, { questionnaireIds, expiresOn, language, line, ...target }): Promise<Result<{ to: string }, SendError>> {
    const { actor } = ctx;
    const found = await targetOf(ctx, target);
    if (!found.ok) return found;
    const asked = await versionsOf(ctx, questionnaireIds);
    if (!asked.ok) return asked;
    const expiry = endOf(ctx, expiresOn ?? usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    const read = language ?? found.value.client.language;
    await sendLetter(ctx, letterKindFor(found.value), null, { relationId: undefined, firstName: actor.name, name: actor.name, language: read, relation: undefined, email: actor.email, phone: undefined, contact: { channel: 'email', to: actor.email, masked: '' } },
      letterValues(ctx, found.value, { expiresAt: expiry.value, language: read }, `${ctx.origin}/library/${asked.value[0]!.id}/rehearse?in=${read}`), line);
    ctx.journal('packet.test', 'practice', { questionnaires: asked.value.length });
    return ok({ to: actor.email });
  },
});

/** The letter as this person would get it, before it is sent; its link is made when it is. */
export const previewLetter = query({
  name: 'preview-letter', access: 'packet.send', input: targetInput.concat(object({ expiresOn: string().max(10).optional(), language: languageInput, line: lineInput })),
  async run(ctx, { expiresOn, language, line, ...target }): Promise<Result<{ channel: 'email' | 'text'; subject: string; body: string }, SendError>> {
    const found = await targetOf(ctx, target);
    if (!found.ok) return found;
    const recipient = await recipientFor(ctx, found.value.client, undefined, language);
    if (!recipient.contact) return fail({ reason: 'no-contact' });
    const expiry = endOf(ctx, expiresOn ?? usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    const { channel } = recipient.contact;
    // As long as a real one, so that the parts of a text are counted right.
    const link = `${ctx.origin}/p/${'x'.repeat(43)}`;
    return ok({ channel, ...(await letterTo(ctx, letterKindFor(found.value), recipient, channel, letterValues(ctx, found.value, { expiresAt: expiry.value, language: language ?? null }, link), line)) });
  },
});

import { array, mixed, object } from 'yup';
import { nameOf } from '../../core/chart';
import { after, isOpen, packetStates, stateAt, type PacketState } from '../../core/packet';
import { checkAnswers, forClient, prune, readChange, translate, type AnswerProblem, type Answers, type Questionnaire } from '../../core/questionnaire';
import { alertsOf } from '../../core/scoring';
import { canonicalText, placesToSign } from '../../core/signing';
import { fail, ok, type Id, type Instant, type Result } from '../../core/shared';
import type { Packet, Part } from '../../db/repositories';
import { command, idInput, inOrder, notFound, nothing, query, statement, type ClientActor, type CommonError, type Context } from '../kit';

import { ownFiles } from './files';

export interface FillPart {
  readonly id: Id<'Part'>;
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
  /** When each place was signed, where nothing changed since. */
  readonly signed: Readonly<Record<string, Instant>>;
}
export interface FillView {
  readonly packetId: Id<'Packet'>;
  readonly state: PacketState;
  readonly practiceName: string;
  readonly supportText: string;
  /** Who fills in, and for whom when those differ. */
  readonly person: string;
  readonly onBehalfOf: string | undefined;
  readonly zone: string;
  readonly locale: string;
  /** The client's, as a language tag. */
  readonly language: string;
  readonly parts: readonly FillPart[];
}

async function openPacket(ctx: Context<ClientActor>, forUpdate: boolean): Promise<{ packet: Packet; state: PacketState } | undefined> {
  const packet = await ctx.repo.packets.byId(ctx.practice.id, ctx.actor.packetId, forUpdate);
  return packet && { packet, state: stateAt(packet.state, packet.expiresAt, ctx.now) };
}

/** A signature stands for exactly the answers it was put under. */
async function signedNow(ctx: Context, part: Part, pruned: Answers): Promise<Record<string, Instant>> {
  const now = canonicalText(pruned);
  return Object.fromEntries((await ctx.repo.packets.signatures(part.id)).flatMap((s) => (canonicalText(s.statement.answers) === now ? [[s.place, s.at]] : [])));
}

/** Everything the client's page needs. After returning, the packet's state and nothing of the answers. */
export const fillView = query({
  name: 'fill-view', access: 'client', input: nothing,
  async run(ctx): Promise<Result<FillView, CommonError>> {
    const { repo, practice } = ctx;
    const found = await openPacket(ctx, false);
    const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
    if (!found || !client) return notFound;
    const relation = found.packet.relationId ? (await repo.clients.relations(client.id)).find((r) => r.id === found.packet.relationId) : undefined;
    const parts = isOpen(found.state) ? await repo.packets.parts(found.packet.id) : [];
    return ok({
      packetId: found.packet.id, state: found.state, practiceName: practice.name, supportText: practice.supportText,
      person: nameOf(relation ?? client), onBehalfOf: relation && nameOf(client),
      zone: client.zone ?? practice.zone, locale: practice.locale, language: client.language,
      parts: await inOrder(parts, async (part): Promise<FillPart> => {
        const questionnaire = await repo.questionnaires.definition(part.versionId);
        const answers = await repo.packets.answers(part.id);
        return { id: part.id, questionnaire: forClient(translate(questionnaire, client.language)), answers, signed: await signedNow(ctx, part, prune(questionnaire, answers)) };
      }),
    });
  },
});

export type SaveError = CommonError | { readonly reason: 'closed'; readonly state: PacketState } | { readonly reason: 'refused'; readonly key: string; readonly why: string };

const moves = Object.fromEntries(packetStates.flatMap((s) => (isOpen(s) && after(s, 'answer') ? [[s, after(s, 'answer')!]] : [])));

/**
 * Saves what was just typed: all of it or none. Half-typed answers are kept as they are; only what could not be an
 * answer to that question at all is refused.
 */
export const saveAnswers = statement({
  name: 'save-answers', access: 'client',
  input: object({ partId: idInput<'Part'>(), changes: array(mixed<NonNullable<unknown>>().required()).min(1).max(200).required() }),
  async run(ctx, { partId, changes }): Promise<Result<{ savedAt: Instant }, SaveError>> {
    const { repo, now, actor, practice } = ctx;
    const versionId = await repo.packets.versionOfPart(actor.packetId, partId);
    if (!versionId) return notFound;
    const questionnaire = await repo.questionnaires.definition(versionId);
    const read = changes.map((c) => readChange(questionnaire, c));
    const refused = read.find((r) => !r.ok);
    // One row a question, the last one wins: a database cannot write the same row twice in one statement.
    const byKey = new Map(read.flatMap((r) => (r.ok ? [[`${r.value.kind} ${r.value.key}`, r.value] as const] : [])));
    const line = ctx.line('answer.save', `packet:${actor.packetId}`, { answers: byKey.size });
    const owned = await ownFiles(ctx, partId, [...byKey.values()].flatMap((c) => (c.kind === 'values' ? c.values : [])));
    if (!refused && owned && (await repo.packets.saveAnswers({ practiceId: practice.id, packetId: actor.packetId, partId, changes: [...byKey.values()], moves, at: now, line, passDigest: actor.passDigest }))) return ok({ savedAt: now });
    const found = await openPacket(ctx, false);
    if (!found) return notFound;
    if (!isOpen(found.state)) return fail({ reason: 'closed', state: found.state });
    if (!owned) return fail({ reason: 'invalid', fields: { changes: 'One of these files is not here.' } });
    if (!refused) return fail({ reason: 'not-allowed' });
    return !refused.ok && !refused.ok && refused.error.reason === 'problem'
      ? fail({ reason: 'refused', key: refused.error.problem.key, why: refused.error.problem.reason })
      : fail({ reason: 'invalid', fields: { changes: 'These are not answers to this questionnaire.' } });
  },
});

export interface PartProblems {
  readonly partId: Id<'Part'>;
  readonly problems: readonly AnswerProblem[];
  readonly unsigned: boolean;
}
export type ReturnError = CommonError | { readonly reason: 'closed'; readonly state: PacketState } | { readonly reason: 'incomplete'; readonly parts: readonly PartProblems[] };

/**
 * Returns the packet: everything the browser checked is checked again. Returning twice, or again after a lost reply,
 * gives the first return's moment. Answers to questions that ended up hidden are dropped.
 */
export const returnPacket = command({
  name: 'return-packet', access: 'client', input: nothing,
  async run(ctx): Promise<Result<{ returnedAt: Instant }, ReturnError>> {
    const { repo, now, actor } = ctx;
    const found = await openPacket(ctx, true);
    if (!found) return notFound;
    const { packet, state } = found;
    if (packet.returnedAt && (state === 'returned' || state === 'settled')) {
      ctx.journal('packet.return-repeated', `packet:${packet.id}`);
      return ok({ returnedAt: packet.returnedAt });
    }
    if (!isOpen(state)) return fail({ reason: 'closed', state });
    const parts = await inOrder(await repo.packets.parts(packet.id), async (part) => {
      const questionnaire = await repo.questionnaires.definition(part.versionId);
      const there = await repo.packets.answers(part.id), answers = prune(questionnaire, there);
      const signed = await signedNow(ctx, part, answers);
      return { part, questionnaire, answers, there, problems: checkAnswers(questionnaire, answers), unsigned: placesToSign(questionnaire, answers).some((place) => !signed[place]) };
    });
    const wrong = parts.filter((p) => p.problems.length > 0 || p.unsigned);
    if (wrong.length > 0) return fail({ reason: 'incomplete', parts: wrong.map((p) => ({ partId: p.part.id, problems: p.problems, unsigned: p.unsigned })) });
    for (const p of parts) await repo.packets.keepOnly(p.part.id, p.answers, p.there);
    const alerts = parts.reduce((n, p) => n + alertsOf(p.questionnaire, p.answers).length, 0);
    await repo.packets.update(packet.id, { state: 'returned', returnedAt: now, returnedFrom: actor.address, alerts });
    ctx.journal('packet.return', `packet:${packet.id}`, { parts: parts.length });
    ctx.tell('returns');
    return ok({ returnedAt: now });
  },
});

import { foldChart, prefillFrom } from '../../core/chart';
import { isBefore } from '../../core/shared';
import { boundsOf, dayIn } from '../../core/timetable';
import type { Packet } from '../../db/repositories';
import { fieldsOf, type Context } from '../kit';

/**
 * The next packet that one link asks for, each session: the same questions, for the next visit from today on. Asked for twice
 * on one day, by two devices at once too, it is the same one.
 */
export async function askAgain(ctx: Context, last: Packet): Promise<Packet> {
  const { repo, practice, now, random } = ctx;
  const first = last.seriesOf ?? last.id, today = dayIn(now, practice.zone), requestId = `${first} ${today}`;
  const [begin] = boundsOf(today, practice.zone);
  const visit = (await repo.clients.visitsOf(practice.id, last.clientId)).filter((v) => !isBefore(v.startsAt, begin)).at(-1);
  const id = random.id<'Packet'>();
  const parts = (await repo.packets.askAgain(last.id)).map((p) => ({ ...p, id: random.id<'Part'>(), packetId: id }));
  const fresh = await repo.packets.add({
    id, practiceId: practice.id, requestId, clientId: last.clientId, relationId: last.relationId, visitId: visit?.id ?? null, staffId: visit?.staffId ?? last.staffId, state: 'sent', createdAt: now, sentAt: now,
    expiresAt: last.expiresAt, language: last.language, door: last.door, repeats: true, seriesOf: first, leaflets: last.leaflets,
  }, parts);
  if (fresh && parts.some((p) => p.prefill)) {
    const chart = foldChart(await repo.charts.entries(last.clientId)), fields = await fieldsOf(ctx);
    for (const part of parts) if (part.prefill) await repo.packets.prefill(part.id, prefillFrom(await repo.questionnaires.definition(part.versionId), chart, fields), now);
  }
  if (fresh) ctx.journal('packet.again', `packet:${id}`, { series: first });
  return (await repo.packets.byRequest(requestId))!;
}

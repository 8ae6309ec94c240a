import { isBefore } from "../../core/shared";
import { boundsOf, dayIn } from "../../core/scheduling";
import type { Packet } from "../../db/repositories";
import type { Context } from "../kit";
import { beginWithChart } from "./begin-with-chart";

/**
 * The next packet that one link asks for, each session: the same questions, for the next visit from today on. Asked for
 * twice on one day, by two devices at once too, it is the same one.
 */
export async function askAgain(ctx: Context, last: Packet): Promise<Packet> {
  const { repo, practice, now, random } = ctx;
  const first = last.seriesOf ?? last.id;
  const today = dayIn(now, practice.zone);
  const requestId = `${first} ${today}`;
  const [begin] = boundsOf(today, practice.zone);
  const visit = (await repo.visits.ofClient(practice.id, last.clientId))
    .filter((v) => !isBefore(v.startsAt, begin))
    .at(-1);
  const id = random.id<"Packet">();
  const parts = (await repo.packets.askAgain(last.id)).map((p) => ({ ...p, id: random.id<"Part">(), packetId: id }));
  const fresh = await repo.packets.add(
    {
      id,
      practiceId: practice.id,
      requestId,
      clientId: last.clientId,
      relationId: last.relationId,
      visitId: visit?.id ?? null,
      staffId: visit?.staffId ?? last.staffId,
      state: "sent",
      createdAt: now,
      sentAt: now,
      expiresAt: last.expiresAt,
      language: last.language,
      door: last.door,
      repeats: true,
      seriesOf: first,
      leaflets: last.leaflets,
    },
    parts,
  );
  if (fresh) await beginWithChart(ctx, last.clientId, parts);
  if (fresh) ctx.journal("packet.again", `packet:${id}`, { series: first });
  return (await repo.packets.byRequest(requestId))!;
}

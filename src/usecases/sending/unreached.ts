import { nameOf } from "../../core/chart";
import { isUnreached, markAndWords, stateAt, type PacketMark } from "../../core/packet";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { inOrder, nothing, query, may, type Context } from "../kit";

export interface UnreachedLine {
  readonly packetId: Id<"Packet">;
  readonly clientName: string;
  readonly mark: PacketMark;
  readonly words: string;
  readonly sentAt: Instant;
}
/** Packets that nobody opened, because the newest letter did not arrive; newest first. */
export async function unreachedLines(ctx: Context): Promise<UnreachedLine[]> {
  return inOrder(await unreachedPackets(ctx), async ({ packet, ...marked }) => {
    const client = await ctx.repo.clients.byId(ctx.practice.id, packet.clientId);
    return {
      packetId: packet.id,
      clientName: client ? nameOf(client) : "",
      ...marked,
      sentAt: packet.sentAt ?? packet.createdAt,
    };
  });
}
async function unreachedPackets({ repo, practice, now }: Context) {
  const troubles = await repo.outbox.troubles(practice.id);
  return (await repo.packets.byIds(practice.id, [...troubles.keys()])).flatMap((packet) => {
    const state = stateAt(packet.state, packet.expiresAt, now);
    const letter = troubles.get(packet.id);
    return isUnreached(state, letter) ? [{ packet, ...markAndWords(state, letter) }] : [];
  });
}

export interface Waiting {
  /** Returned and not settled; undefined for who may not read answers. */
  readonly toRead: number | undefined;
  /** Sent, and the letter did not arrive. */
  readonly unreached: number;
}
/** What waits for somebody, counted for the spine. */
export const waiting = query({
  name: "waiting",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<Waiting, never>> {
    return ok({
      toRead: may(ctx, "answers.read") ? await ctx.repo.packets.countReturned(ctx.practice.id) : undefined,
      unreached: (await unreachedPackets(ctx)).length,
    });
  },
});

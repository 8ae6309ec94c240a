import { eq } from "drizzle-orm";
import type { Id } from "../../core/shared";
import type { Db } from "../database";
import { packet, packetPart } from "../schema";

/** What of a part never changes. */
export interface KnownPart {
  readonly packetId: Id<"Packet">;
  readonly versionId: Id<"Version">;
  readonly keyId: Id<"ClientKey">;
}
const known = new Map<string, KnownPart>();
const mostKnown = 20_000;

/** Which packet a part is in, which version it is on, and whose key it is sealed with. What was read once is kept. */
export async function knownPart(db: Db, partId: Id<"Part">): Promise<KnownPart | undefined> {
  const there = known.get(partId);
  if (there) return there;
  const [row] = await db
    .select({ packetId: packetPart.packetId, versionId: packetPart.versionId, keyId: packet.keyId })
    .from(packetPart)
    .innerJoin(packet, eq(packet.id, packetPart.packetId))
    .where(eq(packetPart.id, partId));
  if (!row?.keyId) return undefined;
  if (known.size >= mostKnown) known.clear();
  const part = { ...row, keyId: row.keyId };
  known.set(partId, part);
  return part;
}

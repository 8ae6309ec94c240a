import { and, asc, count, eq, exists, gt, inArray, isNull, notInArray, or } from "drizzle-orm";
import type { FileValue } from "../../core/questionnaire";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { packet, packetPart, sealedPaper, storedFile } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { knownPart } from "./parts-known";
import { inSight, type Sight } from "./sight";

export interface StoredFile extends FileValue {
  readonly id: Id<"File">;
  readonly partId: Id<"Part"> | null;
  readonly createdAt: Instant;
}
type Held = { readonly title: string; readonly data: string };

export const fileRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight)(packet.clientId);
  const shown =
    seen &&
    or(
      isNull(storedFile.partId),
      exists(
        db
          .select({ id: packetPart.id })
          .from(packetPart)
          .innerJoin(packet, eq(packet.id, packetPart.packetId))
          .where(and(eq(packetPart.id, storedFile.partId), seen)),
      ),
    );
  const place = (id: string): string => `file:${id}`;
  const read = (row: typeof storedFile.$inferSelect): { readonly file: StoredFile; readonly bytes: Uint8Array } => {
    const { title, data } = sealer.open<Held>(place(row.id), row.sealed);
    return {
      file: {
        id: row.id,
        partId: row.partId,
        contentType: row.contentType,
        size: row.size,
        createdAt: row.createdAt,
        title,
      },
      bytes: new Uint8Array(Buffer.from(data, "base64")),
    };
  };
  const keys = clientKeyRepository(db, sealer);
  return {
    /** Gives false when there is a file of that id already. */
    async add(practiceId: Id<"Practice">, { title, ...row }: StoredFile, bytes: Uint8Array): Promise<boolean> {
      const keyId = row.partId === null ? undefined : (await knownPart(db, row.partId))?.keyId;
      await keys.know([keyId]);
      const held = { title, data: Buffer.from(bytes).toString("base64") } satisfies Held;
      const sealed = sealer.seal(place(row.id), held, keyId);
      return (
        (
          await db
            .insert(storedFile)
            .values({ ...row, practiceId, sealed })
            .onConflictDoNothing()
            .returning({ id: storedFile.id })
        ).length === 1
      );
    },
    async byId(
      practiceId: Id<"Practice">,
      id: Id<"File">,
    ): Promise<{ readonly file: StoredFile; readonly bytes: Uint8Array } | undefined> {
      const [row] = await db
        .select()
        .from(storedFile)
        .where(and(eq(storedFile.practiceId, practiceId), eq(storedFile.id, id), shown));
      await keys.knowFor(row ? [row.sealed] : []);
      return row && read(row);
    },
    /** What a client gave, oldest first. */
    async idsOfClient(practiceId: Id<"Practice">, clientId: Id<"Client">): Promise<Id<"File">[]> {
      const rows = await db
        .select({ id: storedFile.id })
        .from(storedFile)
        .innerJoin(packetPart, eq(packetPart.id, storedFile.partId))
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .where(and(eq(storedFile.practiceId, practiceId), eq(packet.clientId, clientId), seen))
        .orderBy(asc(storedFile.createdAt), asc(storedFile.id));
      return rows.map(({ id }) => id);
    },
    /** Whether all of these were given by the client of this part. */
    async allOf(partId: Id<"Part">, ids: readonly string[]): Promise<boolean> {
      const wanted = [...new Set(ids)] as Id<"File">[];
      return (
        (
          await db
            .select({ id: storedFile.id })
            .from(storedFile)
            .where(and(eq(storedFile.partId, partId), inArray(storedFile.id, wanted)))
        ).length === wanted.length
      );
    },
    /** Deletes every file given for this part, of those after `since`, but these, and says how many. */
    async keepOnly(partId: Id<"Part">, ids: readonly string[], since: Instant | null): Promise<number> {
      const gone = await db
        .delete(storedFile)
        .where(
          and(
            eq(storedFile.partId, partId),
            since === null ? undefined : gt(storedFile.createdAt, since),
            ids.length > 0 ? notInArray(storedFile.id, ids as Id<"File">[]) : undefined,
            // What was sealed stays, whatever becomes of the answers.
            notInArray(
              storedFile.id,
              db.select({ id: sealedPaper.fileId }).from(sealedPaper).where(eq(sealedPaper.partId, partId)),
            ),
          ),
        )
        .returning({ id: storedFile.id });
      return gone.length;
    },
    async countOf(partId: Id<"Part">): Promise<number> {
      return (await db.select({ n: count() }).from(storedFile).where(eq(storedFile.partId, partId)))[0]?.n ?? 0;
    },
    /** The practice's own file of that id: a worksheet's PDF. */
    async sheet(practiceId: Id<"Practice">, id: string): Promise<Uint8Array | undefined> {
      const [row] = await db
        .select()
        .from(storedFile)
        .where(
          and(eq(storedFile.practiceId, practiceId), eq(storedFile.id, id as Id<"File">), isNull(storedFile.partId)),
        );
      return row && read(row).bytes;
    },
  };
};

import { and, asc, count, eq, inArray, isNotNull, isNull } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Talk } from "../../core/signing";
import type { Db } from "../database";
import { packet, packetPart, signer, signerPlace, talk } from "../schema";
import { clientKeyRepository } from "./client-keys";
import { knownPart } from "./parts-known";
import { inSight, type Sight } from "./sight";

/** Somebody who is neither the client nor on file. */
export interface NamedPerson {
  readonly name: string;
  readonly email: string;
  /** What they are: "Employer". */
  readonly title: string;
}
export type Signer = Omit<typeof signer.$inferSelect, "person"> & { readonly person: NamedPerson | undefined };
export type SignerPlace = Omit<typeof signerPlace.$inferSelect, "reason"> & { readonly reason: string | undefined };
export interface RecordedTalk extends Talk {
  readonly staffId: Id<"Staff">;
  readonly recordedAt: Instant;
}

/** Who is to sign what of a packet, and the talk about it. */
export const signerRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const keys = clientKeyRepository(db, sealer);
  const seen = inSight(db, sight)(packet.clientId);
  const personPlace = (id: string): string => `signer:${id}`;
  const reasonPlace = (id: string): string => `signer-place:${id}`;
  const talkPlace = (id: string): string => `talk:${id}`;
  const keyOfPacket = async (packetId: Id<"Packet">): Promise<Id<"ClientKey"> | undefined> =>
    (await db.select({ keyId: packet.keyId }).from(packet).where(eq(packet.id, packetId)))[0]?.keyId ?? undefined;
  async function read(rows: readonly (typeof signer.$inferSelect)[]): Promise<Signer[]> {
    await keys.knowFor(rows.flatMap(({ person }) => person ?? []));
    return rows.map((row) => ({
      ...row,
      person: row.person ? sealer.open<NamedPerson>(personPlace(row.id), row.person) : undefined,
    }));
  }
  return {
    async add({ person, ...row }: Signer): Promise<void> {
      const keyId = await keyOfPacket(row.packetId);
      await keys.know([keyId]);
      await db
        .insert(signer)
        .values({ ...row, person: person ? sealer.seal(personPlace(row.id), person, keyId) : null });
    },
    async byId(id: Id<"Signer">): Promise<Signer | undefined> {
      return (await read(await db.select().from(signer).where(eq(signer.id, id))))[0];
    },
    async ofPacket(packetId: Id<"Packet">): Promise<Signer[]> {
      return read(
        await db
          .select()
          .from(signer)
          .where(eq(signer.packetId, packetId))
          .orderBy(asc(signer.createdAt), asc(signer.id)),
      );
    },
    async update(id: Id<"Signer">, set: { readonly askedAt?: Instant; readonly openedAt?: Instant }): Promise<void> {
      await db.update(signer).set(set).where(eq(signer.id, id));
    },
    /** Packets at which it is this member of staff's turn. */
    async packetsOfStaff(practiceId: Id<"Practice">, staffId: Id<"Staff">): Promise<Id<"Packet">[]> {
      const rows = await db
        .selectDistinct({ id: packet.id })
        .from(signerPlace)
        .innerJoin(signer, eq(signer.id, signerPlace.signerId))
        .innerJoin(packet, eq(packet.id, signer.packetId))
        .where(
          and(
            eq(packet.practiceId, practiceId),
            eq(signer.staffId, staffId),
            isNull(signerPlace.endedAt),
            // It is their turn: what they signed is asked no longer.
            isNotNull(signerPlace.askedAt),
            inArray(packet.state, ["returned", "settled"]),
            seen,
          ),
        );
      return rows.map(({ id }) => id);
    },

    async addPlace({ reason, ...row }: SignerPlace): Promise<void> {
      if (reason !== undefined) throw new Error("Nobody has a reason yet.");
      await db.insert(signerPlace).values(row);
    },
    /** Of these parts; those that ended too, in the order they were made. */
    async placesOf(partIds: readonly Id<"Part">[]): Promise<SignerPlace[]> {
      if (partIds.length === 0) return [];
      const rows = await db
        .select()
        .from(signerPlace)
        .where(inArray(signerPlace.partId, [...partIds]))
        .orderBy(asc(signerPlace.createdAt), asc(signerPlace.id));
      await keys.knowFor(rows.flatMap(({ reason }) => reason ?? []));
      return rows.map((row) => ({
        ...row,
        reason: row.reason ? sealer.open<string>(reasonPlace(row.id), row.reason) : undefined,
      }));
    },
    async updatePlace(
      { id, partId }: Pick<SignerPlace, "id" | "partId">,
      { reason, ...set }: Partial<Pick<SignerPlace, "askedAt" | "declinedAt" | "paperAt" | "endedAt" | "reason">>,
    ): Promise<void> {
      const keyId = reason === undefined ? undefined : (await knownPart(db, partId))?.keyId;
      if (reason !== undefined) await keys.know([keyId]);
      await db
        .update(signerPlace)
        .set({ ...set, ...(reason === undefined ? {} : { reason: sealer.seal(reasonPlace(id), reason, keyId) }) })
        .where(eq(signerPlace.id, id));
    },

    async addTalk(id: Id<"Talk">, partId: Id<"Part">, { staffId, recordedAt, ...said }: RecordedTalk): Promise<void> {
      const keyId = (await knownPart(db, partId))?.keyId;
      await keys.know([keyId]);
      await db
        .insert(talk)
        .values({ id, partId, staffId, recordedAt, sealed: sealer.seal(talkPlace(id), said, keyId) });
    },
    /** The newest of a part. */
    async talkOf(partId: Id<"Part">): Promise<RecordedTalk | undefined> {
      const rows = await db
        .select()
        .from(talk)
        .where(eq(talk.partId, partId))
        .orderBy(asc(talk.recordedAt), asc(talk.id));
      const row = rows.at(-1);
      if (!row) return undefined;
      await keys.knowFor([row.sealed]);
      return { ...sealer.open<Talk>(talkPlace(row.id), row.sealed), staffId: row.staffId, recordedAt: row.recordedAt };
    },

    /** Parts whose paper is to be sealed, the longest waiting first. */
    async toSeal(practiceId: Id<"Practice">, most: number): Promise<Id<"Part">[]> {
      const rows = await db
        .select({ id: packetPart.id })
        .from(packetPart)
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .where(and(eq(packet.practiceId, practiceId), isNotNull(packetPart.sealDueAt)))
        .orderBy(asc(packetPart.sealDueAt))
        .limit(most);
      return rows.map(({ id }) => id);
    },
    async countToSeal(practiceId: Id<"Practice">): Promise<number> {
      const [row] = await db
        .select({ many: count() })
        .from(packetPart)
        .innerJoin(packet, eq(packet.id, packetPart.packetId))
        .where(and(eq(packet.practiceId, practiceId), isNotNull(packetPart.sealDueAt)));
      return row?.many ?? 0;
    },
    async setSealDue(partId: Id<"Part">, at: Instant | null): Promise<void> {
      await db.update(packetPart).set({ sealDueAt: at }).where(eq(packetPart.id, partId));
    },
  };
};

import { and, desc, eq, gt, inArray, isNull, sql } from "drizzle-orm";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import {
  alert,
  answer,
  broughtScore,
  client,
  clientErasure,
  clientHold,
  clientStaff,
  consent,
  course,
  doorPass,
  marginNote,
  measureSchedule,
  note,
  noteDesk,
  packet,
  packetPart,
  personalLink,
  postMessage,
  reconcileDraft,
  relation,
  signer,
  signerPlace,
  storedFile,
  visit,
} from "../schema";
import { forgetChart } from "./charts";
import { clientKeyRepository } from "./client-keys";

/** Why nothing of a client may be erased. */
export interface Hold {
  readonly id: Id<"Hold">;
  readonly at: Instant;
  readonly by: string;
  readonly reason: string;
}
/** How much of each kind went, or would. */
export interface ErasedCounts {
  readonly packets: number;
  readonly answers: number;
  readonly files: number;
  readonly letters: number;
  readonly notes: number;
}
const nothingSealed = new Uint8Array();

/** Erasing clients, and holding against it. */
export const clientErasureRepository = (db: Db, sealer: Sealer) => {
  const keys = clientKeyRepository(db, sealer);
  const holdPlace = (id: string): string => `hold:${id}`;
  const erasurePlace = (id: string): string => `erasure:${id}`;
  /** The client, and the records that were made one with theirs. */
  async function whole(clientId: Id<"Client">): Promise<Id<"Client">[]> {
    const all = [clientId];
    for (let at = 0; at < all.length; at++) {
      const rows = await db.select({ id: client.id }).from(client).where(eq(client.mergedInto, all[at]!));
      all.push(...rows.map(({ id }) => id).filter((id) => !all.includes(id)));
    }
    return all;
  }
  const packetsOf = (clients: readonly Id<"Client">[]) =>
    db
      .select({ id: packet.id })
      .from(packet)
      .where(inArray(packet.clientId, [...clients]));
  const partsOf = (clients: readonly Id<"Client">[]) =>
    db
      .select({ id: packetPart.id })
      .from(packetPart)
      .where(inArray(packetPart.packetId, packetsOf(clients)));
  return {
    async counts(clientId: Id<"Client">): Promise<ErasedCounts> {
      const clients = await whole(clientId);
      return {
        packets: await db.$count(packet, inArray(packet.clientId, clients)),
        answers: await db.$count(answer, and(inArray(answer.partId, partsOf(clients)), eq(answer.blank, false))),
        files: await db.$count(storedFile, inArray(storedFile.partId, partsOf(clients))),
        letters: await db.$count(postMessage, inArray(postMessage.packetId, packetsOf(clients))),
        notes: await db.$count(note, inArray(note.clientId, clients)),
      };
    },
    /**
     * Destroys their keys, and with them everything that is in ledgers; what may be changed is deleted or emptied.
     * Visits stay, as nobody's; those to come are cancelled. Call with the client held.
     */
    async erase(
      clientId: Id<"Client">,
      by: { readonly name: string; readonly staffId: Id<"Staff">; readonly at: Instant; readonly reason: string },
    ): Promise<ErasedCounts> {
      const { at } = by;
      const counts = await this.counts(clientId);
      const clients = await whole(clientId);
      const [packets, parts] = [packetsOf(clients), partsOf(clients)];
      const own = await db.select({ keyId: client.keyId }).from(client).where(inArray(client.id, clients));
      await db.delete(answer).where(inArray(answer.partId, parts));
      await db.delete(marginNote).where(inArray(marginNote.partId, parts));
      await db.delete(alert).where(inArray(alert.clientId, clients));
      await db.delete(broughtScore).where(inArray(broughtScore.clientId, clients));
      await db.delete(measureSchedule).where(inArray(measureSchedule.clientId, clients));
      await db.delete(reconcileDraft).where(inArray(reconcileDraft.packetId, packets));
      await db.delete(storedFile).where(inArray(storedFile.partId, parts));
      await db.delete(postMessage).where(inArray(postMessage.packetId, packets));
      await db.delete(doorPass).where(inArray(doorPass.packetId, packets));
      await db
        .update(personalLink)
        .set({ revokedAt: sql`coalesce(${personalLink.revokedAt}, ${at})`, codeDigest: null })
        .where(inArray(personalLink.packetId, packets));
      await db.update(signer).set({ person: null }).where(inArray(signer.packetId, packets));
      await db.update(signerPlace).set({ reason: null, endedAt: at }).where(inArray(signerPlace.partId, parts));
      await db.update(consent).set({ reason: null }).where(inArray(consent.clientId, clients));
      await db.update(packetPart).set({ gist: null, sealDueAt: null }).where(inArray(packetPart.packetId, packets));
      await db
        .update(packet)
        .set({
          state: sql`case when ${packet.state} in ('returned', 'settled') then ${packet.state} else 'withdrawn' end`,
          repeats: false,
          alerts: 0,
          keyId: null,
          personalLine: null,
          comment: null,
          sentBack: null,
        })
        .where(inArray(packet.clientId, clients));
      await db
        .update(relation)
        .set({ endedAt: sql`coalesce(${relation.endedAt}, ${at})`, keyId: null, person: nothingSealed })
        .where(inArray(relation.clientId, clients));
      await db.update(note).set({ keyId: null, blocks: nothingSealed }).where(inArray(note.clientId, clients));
      await db
        .delete(noteDesk)
        .where(inArray(noteDesk.noteId, db.select({ id: note.id }).from(note).where(inArray(note.clientId, clients))));
      await db.delete(clientStaff).where(inArray(clientStaff.clientId, clients));
      await db
        .update(visit)
        .set({ cancelledAt: at, cancelledBy: "practice" })
        .where(and(inArray(visit.clientId, clients), isNull(visit.cancelledAt), gt(visit.endsAt, at)));
      await db
        .update(client)
        .set({
          identity: nothingSealed,
          keyId: null,
          erasedAt: at,
          archivedAt: sql`coalesce(${client.archivedAt}, ${at})`,
          zone: null,
          language: "en",
        })
        .where(inArray(client.id, clients));
      // Last: what goes before counts a course up, and so makes its row anew.
      await db.delete(course).where(inArray(course.clientId, clients));
      await keys.destroy(
        own.flatMap(({ keyId }) => keyId ?? []),
        at,
      );
      for (const one of clients) forgetChart(sealer, one);
      await db.insert(clientErasure).values({
        clientId,
        at,
        by: by.name,
        staffId: by.staffId,
        reason: sealer.seal(erasurePlace(clientId), by.reason),
      });
      return counts;
    },
    /** Newest first. */
    async all(
      most: number,
    ): Promise<{ clientId: Id<"Client">; staffId: Id<"Staff">; at: Instant; by: string; reason: string }[]> {
      const rows = await db.select().from(clientErasure).orderBy(desc(clientErasure.at)).limit(most);
      return rows.map(({ clientId, staffId, at, by, reason }) => ({
        clientId,
        staffId,
        at,
        by,
        reason: sealer.open<string>(erasurePlace(clientId), reason),
      }));
    },
    async isErased(clientId: Id<"Client">): Promise<boolean> {
      return (await db.$count(clientErasure, eq(clientErasure.clientId, clientId))) > 0;
    },
    /** Gives false where this request already did. */
    async hold(clientId: Id<"Client">, { reason, ...row }: Hold): Promise<boolean> {
      const keyId = await keys.of(clientId);
      const added = await db
        .insert(clientHold)
        .values({ ...row, clientId, reason: sealer.seal(holdPlace(row.id), reason, keyId) })
        .onConflictDoNothing()
        .returning({ id: clientHold.id });
      return added.length === 1;
    },
    /** Those that stand, of this record and of those made one with it. */
    async holds(clientId: Id<"Client">): Promise<Hold[]> {
      const rows = await db
        .select()
        .from(clientHold)
        .where(and(inArray(clientHold.clientId, await whole(clientId)), isNull(clientHold.endedAt)))
        .orderBy(desc(clientHold.at));
      await keys.knowFor(rows.map(({ reason }) => reason));
      return rows.map(({ id, at, by, reason }) => ({ id, at, by, reason: sealer.open<string>(holdPlace(id), reason) }));
    },
    async endHold(id: Id<"Hold">, by: string, at: Instant): Promise<Id<"Client"> | undefined> {
      const [row] = await db
        .update(clientHold)
        .set({ endedAt: at, endedBy: by })
        .where(and(eq(clientHold.id, id), isNull(clientHold.endedAt)))
        .returning({ clientId: clientHold.clientId });
      return row?.clientId;
    },
  };
};

import { and, asc, count, desc, eq, isNull, sql } from "drizzle-orm";
import type { MailingState } from "../../core/packet";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { mailing, mailingPerson, packet, packetPart, questionnaireVersion, visit } from "../schema";

export type Mailing = Omit<typeof mailing.$inferSelect, "wishes">;
export type MailingPerson = typeof mailingPerson.$inferSelect;
/** What is known of a client's visits and returns: enough to choose whom to write to, without opening an answer. */
export interface ClientFacts {
  readonly visits: readonly {
    readonly clientId: Id<"Client">;
    readonly visitTypeId: Id<"VisitType">;
    readonly staffId: Id<"Staff">;
    readonly last: Instant;
  }[];
  /** The newest return of each questionnaire. */
  readonly returns: readonly {
    readonly clientId: Id<"Client">;
    readonly questionnaireId: Id<"Questionnaire">;
    readonly last: Instant;
  }[];
}

export const mailingRepository = (db: Db, sealer: Sealer) => {
  const place = (id: string): string => `mailing:${id}:wishes`;
  return {
    /** Gives false when this request already began one. */
    async add(row: Mailing, wishes: unknown, people: (typeof mailingPerson.$inferInsert)[]): Promise<boolean> {
      const made = await db
        .insert(mailing)
        .values({ ...row, wishes: sealer.seal(place(row.id), wishes) })
        .onConflictDoNothing()
        .returning({ id: mailing.id });
      if (made.length === 0) return false;
      await db.insert(mailingPerson).values(people);
      return true;
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Mailing">, forUpdate = false): Promise<Mailing | undefined> {
      const query = db
        .select()
        .from(mailing)
        .where(and(eq(mailing.practiceId, practiceId), eq(mailing.id, id)));
      if (forUpdate) query.for("update");
      const [row] = await query;
      if (!row) return undefined;
      const { wishes: _wishes, ...rest } = row;
      return rest;
    },
    async wishes<T>(id: Id<"Mailing">): Promise<T> {
      const [row] = await db.select({ wishes: mailing.wishes }).from(mailing).where(eq(mailing.id, id));
      return sealer.open<T>(place(id), row!.wishes);
    },
    async latest(
      practiceId: Id<"Practice">,
      limit: number,
    ): Promise<(Mailing & { people: number; written: number })[]> {
      const tally = db
        .select({
          mailingId: mailingPerson.mailingId,
          n: count().as("n"),
          done: sql<number>`count(*) filter (where ${mailingPerson.state} = 'sent')`.as("done"),
        })
        .from(mailingPerson)
        .groupBy(mailingPerson.mailingId)
        .as("tally");
      const rows = await db
        .select({ mailing, n: tally.n, done: tally.done })
        .from(mailing)
        .innerJoin(tally, eq(tally.mailingId, mailing.id))
        .where(eq(mailing.practiceId, practiceId))
        .orderBy(desc(mailing.createdAt))
        .limit(limit);
      return rows.map(({ mailing: { wishes: _wishes, ...row }, n, done }) => ({
        ...row,
        people: Number(n),
        written: Number(done),
      }));
    },
    /** Those that are neither finished nor stopped, oldest first. */
    async unfinished(practiceId: Id<"Practice">): Promise<Mailing[]> {
      return db
        .select()
        .from(mailing)
        .where(and(eq(mailing.practiceId, practiceId), isNull(mailing.finishedAt), isNull(mailing.stoppedAt)))
        .orderBy(asc(mailing.createdAt));
    },
    async people(id: Id<"Mailing">): Promise<MailingPerson[]> {
      return db
        .select()
        .from(mailingPerson)
        .where(eq(mailingPerson.mailingId, id))
        .orderBy(asc(mailingPerson.position));
    },
    /** The next who was not written to yet, held until the transaction ends; nobody else takes them meanwhile. */
    async next(id: Id<"Mailing">): Promise<MailingPerson | undefined> {
      return (
        await db
          .select()
          .from(mailingPerson)
          .where(and(eq(mailingPerson.mailingId, id), eq(mailingPerson.state, "waiting")))
          .orderBy(asc(mailingPerson.position))
          .limit(1)
          .for("update", { skipLocked: true })
      )[0];
    },
    /** Whether somebody was not written to yet, held or not. */
    async isWaiting(id: Id<"Mailing">): Promise<boolean> {
      const [row] = await db
        .select({ id: mailingPerson.id })
        .from(mailingPerson)
        .where(and(eq(mailingPerson.mailingId, id), eq(mailingPerson.state, "waiting")))
        .limit(1);
      return row !== undefined;
    },
    async mark(id: Id<"MailingPerson">, state: MailingState, packetId: Id<"Packet"> | null): Promise<void> {
      await db.update(mailingPerson).set({ state, packetId }).where(eq(mailingPerson.id, id));
    },
    async leaveOut(id: Id<"Mailing">): Promise<void> {
      await db
        .update(mailingPerson)
        .set({ state: "left-out" })
        .where(and(eq(mailingPerson.mailingId, id), eq(mailingPerson.state, "waiting")));
    },
    async end(id: Id<"Mailing">, set: { readonly finishedAt?: Instant; readonly stoppedAt?: Instant }): Promise<void> {
      await db.update(mailing).set(set).where(eq(mailing.id, id));
    },
    async facts(practiceId: Id<"Practice">): Promise<ClientFacts> {
      const visits = await db
        .select({
          clientId: visit.clientId,
          visitTypeId: visit.visitTypeId,
          staffId: visit.staffId,
          last: sql<Instant>`max(${visit.startsAt})`.mapWith(visit.startsAt),
        })
        .from(visit)
        .where(and(eq(visit.practiceId, practiceId), isNull(visit.cancelledAt)))
        .groupBy(visit.clientId, visit.visitTypeId, visit.staffId);
      const returns = await db
        .select({
          clientId: packet.clientId,
          questionnaireId: questionnaireVersion.questionnaireId,
          last: sql<Instant>`max(${packet.returnedAt})`.mapWith(packet.returnedAt),
        })
        .from(packet)
        .innerJoin(packetPart, eq(packetPart.packetId, packet.id))
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(and(eq(packet.practiceId, practiceId), sql`${packet.returnedAt} is not null`))
        .groupBy(packet.clientId, questionnaireVersion.questionnaireId);
      return { visits, returns };
    },
  };
};

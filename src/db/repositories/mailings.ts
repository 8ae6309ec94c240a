import { and, asc, count, desc, eq, gt, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { mailingStates, type MailingState } from "../../core/packet";
import type { PeopleWish } from "../../core/scheduling";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { mailing, mailingPerson, packet, packetPart, questionnaireVersion, visit } from "../schema";
import { inSight, type Sight } from "./sight";

export type Mailing = Omit<typeof mailing.$inferSelect, "wishes">;
export type MailingPerson = typeof mailingPerson.$inferSelect;
/** A query takes so many values. */
const mostAtOnce = 5000;

export const mailingRepository = (db: Db, sealer: Sealer, sight: Sight) => {
  const seen = inSight(db, sight);
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
      for (let at = 0; at < people.length; at += mostAtOnce)
        await db.insert(mailingPerson).values(people.slice(at, at + mostAtOnce));
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
    /** How many stand in which state. */
    async tally(id: Id<"Mailing">): Promise<Readonly<Partial<Record<MailingState, number>>>> {
      const rows = await db
        .select({ state: mailingPerson.state, n: count() })
        .from(mailingPerson)
        .where(and(eq(mailingPerson.mailingId, id), seen(mailingPerson.clientId)))
        .groupBy(mailingPerson.state);
      return Object.fromEntries(rows.map(({ state, n }) => [state, Number(n)]));
    },
    /** Those in one of these states, or all, in the order they are written to. */
    async people(
      id: Id<"Mailing">,
      states: readonly MailingState[] = mailingStates,
      from = 0,
      most = Number.MAX_SAFE_INTEGER,
    ): Promise<MailingPerson[]> {
      return db
        .select()
        .from(mailingPerson)
        .where(
          and(eq(mailingPerson.mailingId, id), inArray(mailingPerson.state, [...states]), seen(mailingPerson.clientId)),
        )
        .orderBy(asc(mailingPerson.position))
        .offset(from)
        .limit(most);
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
    /** Whose client had, or will have, a visit of a kind, or with somebody, or both in one. */
    async withVisit(
      practiceId: Id<"Practice">,
      { visitTypeId, staffId }: Pick<PeopleWish, "visitTypeId" | "staffId">,
    ): Promise<ReadonlySet<string>> {
      const rows = await db
        .selectDistinct({ id: visit.clientId })
        .from(visit)
        .where(
          and(
            eq(visit.practiceId, practiceId),
            isNull(visit.cancelledAt),
            visitTypeId && eq(visit.visitTypeId, visitTypeId),
            staffId && eq(visit.staffId, staffId),
            seen(visit.clientId),
          ),
        );
      return new Set(rows.map(({ id }) => id));
    },
    /** When a questionnaire last came back, by client. */
    async lastReturns(
      practiceId: Id<"Practice">,
      questionnaireId: Id<"Questionnaire">,
    ): Promise<ReadonlyMap<string, Instant>> {
      const rows = await db
        .select({
          clientId: packet.clientId,
          last: sql<Instant>`max(${packet.returnedAt})`.mapWith(packet.returnedAt),
        })
        .from(packet)
        .innerJoin(packetPart, eq(packetPart.packetId, packet.id))
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(
          and(
            eq(packet.practiceId, practiceId),
            isNotNull(packet.returnedAt),
            eq(questionnaireVersion.questionnaireId, questionnaireId),
            seen(packet.clientId),
          ),
        )
        .groupBy(packet.clientId);
      return new Map(rows.map(({ clientId, last }) => [clientId, last]));
    },
    /** Before whom one of these lies open. */
    async withOpen(
      practiceId: Id<"Practice">,
      questionnaireIds: readonly Id<"Questionnaire">[],
      now: Instant,
    ): Promise<ReadonlySet<string>> {
      if (questionnaireIds.length === 0) return new Set();
      const rows = await db
        .selectDistinct({ id: packet.clientId })
        .from(packet)
        .innerJoin(packetPart, eq(packetPart.packetId, packet.id))
        .innerJoin(questionnaireVersion, eq(questionnaireVersion.id, packetPart.versionId))
        .where(
          and(
            eq(packet.practiceId, practiceId),
            inArray(packet.state, ["sent", "opened", "under-way", "sent-back"]),
            gt(packet.expiresAt, now),
            inArray(questionnaireVersion.questionnaireId, [...questionnaireIds]),
            seen(packet.clientId),
          ),
        );
      return new Set(rows.map(({ id }) => id));
    },
  };
};

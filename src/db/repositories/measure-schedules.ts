import { and, asc, eq, exists, gt, isNull, lte, or, sql } from "drizzle-orm";
import { laterBy, type Id, type Instant } from "../../core/shared";
import type { Db } from "../database";
import { measureSchedule, visit } from "../schema";
import { inSight, type Sight } from "./sight";

export type MeasureSchedule = typeof measureSchedule.$inferSelect;
/** A client is asked this long before a visit at most, in ms: the day before. */
const beforeVisit = 24 * 3_600_000;

/** Who is asked for the same measures again and again, and when it is time. */
export const measureScheduleRepository = (db: Db, sight: Sight) => {
  const seen = inSight(db, sight);
  const live = isNull(measureSchedule.endedAt);
  /** Their next visit that nobody was asked for yet, where it is near. */
  const nearVisit = (now: Instant) =>
    exists(
      db
        .select({ id: visit.id })
        .from(visit)
        .where(
          and(
            eq(visit.clientId, measureSchedule.clientId),
            isNull(visit.cancelledAt),
            gt(visit.startsAt, now),
            lte(visit.startsAt, laterBy(now, beforeVisit)),
            sql`${visit.id} is distinct from ${measureSchedule.lastVisitId}`,
          ),
        ),
    );
  return {
    /** Gives false where this request already did. */
    async add(row: typeof measureSchedule.$inferInsert): Promise<boolean> {
      return (
        (await db.insert(measureSchedule).values(row).onConflictDoNothing().returning({ id: measureSchedule.id }))
          .length === 1
      );
    },
    async byId(id: Id<"MeasureSchedule">, forUpdate = false): Promise<MeasureSchedule | undefined> {
      const query = db
        .select()
        .from(measureSchedule)
        .where(and(eq(measureSchedule.id, id), seen(measureSchedule.clientId)));
      if (forUpdate) query.for("update");
      return (await query)[0];
    },
    /** Those that go on, the oldest first. */
    async ofClient(clientId: Id<"Client">): Promise<MeasureSchedule[]> {
      return db
        .select()
        .from(measureSchedule)
        .where(and(eq(measureSchedule.clientId, clientId), live, seen(measureSchedule.clientId)))
        .orderBy(asc(measureSchedule.createdAt));
    },
    /** By the first packet of those its link asks for. */
    async ofSeries(seriesId: Id<"Packet">): Promise<MeasureSchedule | undefined> {
      return (await db.select().from(measureSchedule).where(eq(measureSchedule.seriesId, seriesId)))[0];
    },
    /** Whom it is time to ask. @param only whether it is time for this one */
    async due(practiceId: Id<"Practice">, now: Instant, only?: Id<"MeasureSchedule">): Promise<MeasureSchedule[]> {
      const { everyWeeks, lastAskedAt } = measureSchedule;
      // Half a day is given, so that who is asked in the evening is not asked later each time.
      const weeksOver = sql`${lastAskedAt} <= ${now}::timestamptz - make_interval(days => ${everyWeeks} * 7, hours => -12)`;
      return db
        .select()
        .from(measureSchedule)
        .where(
          and(
            eq(measureSchedule.practiceId, practiceId),
            live,
            only && eq(measureSchedule.id, only),
            or(
              and(isNull(everyWeeks), nearVisit(now)),
              and(eq(everyWeeks, 0), isNull(lastAskedAt)),
              and(gt(everyWeeks, 0), or(isNull(lastAskedAt), weeksOver)),
            ),
          ),
        )
        .orderBy(asc(measureSchedule.createdAt));
    },
    async update(id: Id<"MeasureSchedule">, set: Partial<MeasureSchedule>): Promise<void> {
      await db.update(measureSchedule).set(set).where(eq(measureSchedule.id, id));
    },
    /** A colleague goes on with what somebody had begun. */
    async handTo(staffId: Id<"Staff">, to: Id<"Staff">): Promise<void> {
      await db
        .update(measureSchedule)
        .set({ staffId: to })
        .where(and(eq(measureSchedule.staffId, staffId), live));
    },
  };
};

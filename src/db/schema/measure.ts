import { sql } from "drizzle-orm";
import { bigint, index, integer, jsonb, pgTable, text, uniqueIndex } from "drizzle-orm/pg-core";
import type { Id } from "../../core/shared";
import { client } from "./client";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { packet } from "./packet";
import { practice } from "./practice";
import { questionnaireVersion } from "./questionnaire";

/**
 * All scores of a client in one sealed row, so that lists of many open one row each. It is made from the returns and the
 * brought scores when somebody asks; a trigger counts `revision` up whenever one of those changes, and what was made of
 * an older revision is made anew.
 */
export const course = pgTable("course", {
  clientId: idColumn<"Client">("client_id")
    .primaryKey()
    .references(() => client.id),
  revision: bigint("revision", { mode: "number" }).notNull().default(0),
  /** The revision it was made of. */
  madeOf: bigint("made_of", { mode: "number" }),
  sealed: sealedColumn("sealed"),
  /** The first and the last of each score alone, which is all that lists of everybody read. */
  ends: sealedColumn("ends"),
});

/** A score from before, that was brought from a file. */
export const broughtScore = pgTable(
  "brought_score",
  {
    id: idColumn<"BroughtScore">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    versionId: idColumn<"Version">("version_id")
      .notNull()
      .references(() => questionnaireVersion.id),
    /** Of the file. */
    requestId: text("request_id").notNull(),
    line: integer("line").notNull(),
    broughtAt: instantColumn("brought_at").notNull(),
    broughtBy: text("brought_by").$type<Id<"Staff">>().notNull(),
    /** When it was answered, which score it is and its number, sealed. */
    sealed: sealedColumn("sealed").notNull(),
  },
  (t) => [uniqueIndex("brought_score_line").on(t.requestId, t.line), index("brought_score_client").on(t.clientId)],
);

/** A return that alarms, open until somebody wrote what was done about it. */
export const alert = pgTable(
  "alert",
  {
    id: idColumn<"Alert">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    packetId: idColumn<"Packet">("packet_id")
      .notNull()
      .references(() => packet.id),
    raisedAt: instantColumn("raised_at").notNull(),
    /** When owners were told that it is still open. */
    escalatedAt: instantColumn("escalated_at"),
    doneAt: instantColumn("done_at"),
    doneBy: text("done_by").$type<Id<"Staff">>(),
    /** What was done, sealed. */
    done: sealedColumn("done"),
  },
  (t) => [
    index("alert_client").on(t.clientId),
    index("alert_packet").on(t.packetId),
    // Few among many.
    index("alert_open")
      .on(t.practiceId, t.raisedAt)
      .where(sql`${t.doneAt} is null`),
  ],
);

/** Asks a client for the same measures again and again, by one link. */
export const measureSchedule = pgTable(
  "measure_schedule",
  {
    id: idColumn<"MeasureSchedule">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    requestId: text("request_id").notNull(),
    /** Whose returns they are. */
    staffId: text("staff_id").$type<Id<"Staff">>().notNull(),
    questionnaireIds: jsonb("questionnaire_ids").$type<readonly Id<"Questionnaire">[]>().notNull(),
    /** Every so many weeks; 0: at the beginning and the end; null: before every visit. */
    everyWeeks: integer("every_weeks"),
    /** The first packet of those that its link asks for. */
    seriesId: idColumn<"Packet">("series_id").references(() => packet.id),
    /** "as-written", or "since-last": since the last session. */
    recall: text("recall").$type<"as-written" | "since-last">().notNull(),
    createdAt: instantColumn("created_at").notNull(),
    lastAskedAt: instantColumn("last_asked_at"),
    /** The visit it was last asked for. */
    lastVisitId: idColumn<"Visit">("last_visit_id"),
    endedAt: instantColumn("ended_at"),
  },
  (t) => [
    uniqueIndex("measure_schedule_request").on(t.requestId),
    index("measure_schedule_client").on(t.clientId),
    index("measure_schedule_live")
      .on(t.practiceId)
      .where(sql`${t.endedAt} is null`),
  ],
);

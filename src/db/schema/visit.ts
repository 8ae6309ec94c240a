import type { VisitChecks } from "../../core/measures";
import type { Id } from "../../core/shared";
import { boolean, index, integer, jsonb, pgTable, text } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";
import { practice } from "./practice";
import { staff } from "./staff";
import { client } from "./client";

export const visitType = pgTable("visit_type", {
  id: idColumn<"VisitType">("id").primaryKey(),
  practiceId: idColumn<"Practice">("practice_id")
    .notNull()
    .references(() => practice.id),
  name: text("name").notNull(),
  minutes: integer("minutes").notNull().default(50),
  /** Held by phone or picture, so that no room is taken. */
  remote: boolean("remote").notNull().default(false),
  /** The room it is held in unless another is said; empty where there is none to keep. */
  room: text("room").notNull().default(""),
  /** Who holds such visits; empty for everybody. */
  practitioners: jsonb("practitioners").$type<readonly Id<"Staff">[]>().notNull().default([]),
  /** No longer offered; visits of its kind stay. */
  retiredAt: instantColumn("retired_at"),
});

export const visit = pgTable(
  "visit",
  {
    id: idColumn<"Visit">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    visitTypeId: idColumn<"VisitType">("visit_type_id")
      .notNull()
      .references(() => visitType.id),
    startsAt: instantColumn("starts_at").notNull(),
    endsAt: instantColumn("ends_at").notNull(),
    room: text("room").notNull().default(""),
    cancelledAt: instantColumn("cancelled_at"),
    cancelledBy: text("cancelled_by").$type<"client" | "practice">(),
    /** What was ticked off at its start, in the practice's own words. */
    checks: jsonb("checks").$type<VisitChecks>(),
  },
  (t) => [index("visit_day").on(t.practiceId, t.startsAt), index("visit_client").on(t.clientId)],
);

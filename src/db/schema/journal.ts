import type { JournalAction } from "../../core/audit";
import { jsonb, pgTable, text, uniqueIndex, bigint, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";
import { practice } from "./practice";

export const journalHead = pgTable("journal_head", {
  practiceId: idColumn<"Practice">("practice_id")
    .primaryKey()
    .references(() => practice.id),
  seq: bigint("seq", { mode: "number" }).notNull(),
  prevHash: text("prev_hash").notNull(),
  hash: text("hash").notNull(),
});

/**
 * Append-only (a trigger refuses update and delete); each row's hash covers the row before it. Its practice is the head's,
 * out of which every row is written: a second reference would cost each save a lookup and a lock.
 */
export const journal = pgTable(
  "journal",
  {
    practiceId: idColumn<"Practice">("practice_id").notNull(),
    seq: bigint("seq", { mode: "number" }).notNull(),
    at: instantColumn("at").notNull(),
    actor: text("actor").notNull(),
    action: text("action").$type<JournalAction>().notNull(),
    subject: text("subject").notNull(),
    address: text("address").notNull(),
    detail: jsonb("detail").$type<Record<string, string | number | boolean>>().notNull(),
    prevHash: text("prev_hash").notNull(),
    hash: text("hash").notNull(),
  },
  (t) => [uniqueIndex("journal_key").on(t.practiceId, t.seq), index("journal_subject").on(t.subject)],
);

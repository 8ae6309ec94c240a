import { sql } from "drizzle-orm";
import type { JournalAction, KeptHead } from "../../core/audit";
import { integer, jsonb, pgTable, primaryKey, text, uniqueIndex, bigint, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";
import { practice } from "./practice";

export const journalHead = pgTable("journal_head", {
  practiceId: idColumn<"Practice">("practice_id")
    .primaryKey()
    .references(() => practice.id),
  seq: bigint("seq", { mode: "number" }).notNull(),
  prevHash: text("prev_hash").notNull(),
  hash: text("hash").notNull(),
  /** Up to where the chain was walked last, under a key. */
  checked: jsonb("checked").$type<KeptHead>(),
});

/** What was refused, counted: whoever asks often fills no journal. One row for each use case and whoever asked. */
export const refusal = pgTable(
  "refusal",
  {
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    useCase: text("use_case").notNull(),
    /** `staff:<id>`; of strangers and clients the kind alone. */
    actor: text("actor").notNull(),
    count: integer("count").notNull(),
    firstAt: instantColumn("first_at").notNull(),
    lastAt: instantColumn("last_at").notNull(),
    /** Where the last one came from. */
    address: text("address").notNull(),
  },
  (t) => [primaryKey({ columns: [t.practiceId, t.useCase, t.actor] })],
);

/**
 * Append-only (a trigger refuses update and delete); each row's hash covers the row before it, and its mark can only be
 * made with the key. Its practice is the head's, out of which every row is written: a second reference would cost each
 * save a lookup and a lock.
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
    /** Under a key that is not in the database; empty in rows from before there were marks. */
    mark: text("mark").notNull().default(""),
    prevHash: text("prev_hash").notNull(),
    hash: text("hash").notNull(),
  },
  (t) => [
    uniqueIndex("journal_key").on(t.practiceId, t.seq),
    index("journal_subject").on(t.subject),
    // What a walk asks for by what was added; a small part of all rows.
    index("journal_additions")
      .on(t.practiceId, t.action)
      .where(sql`${t.action} in ('chart.append', 'signature')`),
  ],
);

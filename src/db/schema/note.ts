import type { Id } from "../../core/shared";
import { integer, jsonb, pgTable, primaryKey, text, uniqueIndex, bigint, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { client } from "./client";
import { visit } from "./visit";

export const noteLayout = pgTable(
  "note_layout",
  {
    id: text("id").notNull(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    position: integer("position").notNull(),
    layout: jsonb("layout").notNull(),
  },
  (t) => [uniqueIndex("note_layout_key").on(t.practiceId, t.id)],
);

export const note = pgTable(
  "note",
  {
    id: idColumn<"Note">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    /** The client's key at the time: it is sealed with that. Null once they were erased. */
    keyId: idColumn<"ClientKey">("key_id"),
    visitId: idColumn<"Visit">("visit_id").references(() => visit.id),
    requestId: text("request_id").notNull(),
    layoutId: text("layout_id").notNull(),
    author: text("author").$type<Id<"Staff">>().notNull(),
    revision: bigint("revision", { mode: "number" }).notNull(),
    blocks: sealedColumn("blocks").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    updatedAt: instantColumn("updated_at").notNull(),
    /** Who saved it last; in rows from before that was noted, nobody. */
    updatedBy: text("updated_by").$type<Id<"Staff">>(),
  },
  (t) => [uniqueIndex("note_request").on(t.requestId), index("note_client").on(t.clientId)],
);

/** A note as it stood before it was saved over, by whom and when. Append-only. */
export const noteVersion = pgTable(
  "note_version",
  {
    noteId: idColumn<"Note">("note_id")
      .notNull()
      .references(() => note.id),
    revision: bigint("revision", { mode: "number" }).notNull(),
    by: text("by").$type<Id<"Staff">>().notNull(),
    at: instantColumn("at").notNull(),
    blocks: sealedColumn("blocks").notNull(),
  },
  (t) => [primaryKey({ columns: [t.noteId, t.revision] })],
);

import type { Id } from "../../core/shared";
import { integer, jsonb, pgTable, text, uniqueIndex, bigint, index } from "drizzle-orm/pg-core";
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
    visitId: idColumn<"Visit">("visit_id").references(() => visit.id),
    requestId: text("request_id").notNull(),
    layoutId: text("layout_id").notNull(),
    author: text("author").$type<Id<"Staff">>().notNull(),
    revision: bigint("revision", { mode: "number" }).notNull(),
    blocks: sealedColumn("blocks").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    updatedAt: instantColumn("updated_at").notNull(),
  },
  (t) => [uniqueIndex("note_request").on(t.requestId), index("note_client").on(t.clientId)],
);

import type { Id } from "../../core/shared";
import type { NoteLayout } from "../../core/notes";
import { sql } from "drizzle-orm";
import { bigint, boolean, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { packet } from "./packet";
import { practice } from "./practice";
import { client } from "./client";
import { questionnaire } from "./questionnaire";
import { staff } from "./staff";
import { visit } from "./visit";

/** A layout of the practice's own, besides those that every practice has. */
export const noteLayout = pgTable("note_layout", {
  id: idColumn<"NoteLayout">("id").primaryKey(),
  practiceId: idColumn<"Practice">("practice_id")
    .notNull()
    .references(() => practice.id),
  /** Who made it; whose it is alone, until it is shared. */
  staffId: idColumn<"Staff">("staff_id")
    .notNull()
    .references(() => staff.id),
  shared: boolean("shared").notNull().default(false),
  revision: integer("revision").notNull(),
  layout: jsonb("layout").$type<Omit<NoteLayout, "id">>().notNull(),
  updatedAt: instantColumn("updated_at").notNull(),
  updatedBy: text("updated_by").notNull(),
});

/** Where somebody had a questionnaire's answers in a layout when they last finished such a note. */
export const noteHabit = pgTable(
  "note_habit",
  {
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    questionnaireId: idColumn<"Questionnaire">("questionnaire_id")
      .notNull()
      .references(() => questionnaire.id),
    layoutId: text("layout_id").notNull(),
    /** Sections by linkId; empty: beside the page. */
    habit: jsonb("habit").$type<Readonly<Record<string, string>>>().notNull(),
    updatedAt: instantColumn("updated_at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.staffId, t.questionnaireId, t.layoutId] })],
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
    /** The note's content, sealed. */
    blocks: sealedColumn("blocks").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    updatedAt: instantColumn("updated_at").notNull(),
    /** Who saved it last; in rows from before that was noted, nobody. */
    updatedBy: text("updated_by").$type<Id<"Staff">>(),
    /** From when on nobody writes in it any more. */
    signedAt: instantColumn("signed_at"),
    signedBy: text("signed_by").$type<Id<"Staff">>(),
    /** Who was asked to sign beside the author, and when they did. */
    cosignBy: text("cosign_by").$type<Id<"Staff">>(),
    cosignedAt: instantColumn("cosigned_at"),
  },
  (t) => [
    uniqueIndex("note_request").on(t.requestId),
    index("note_client").on(t.clientId),
    index("note_visit").on(t.visitId),
    index("note_written").on(t.practiceId, t.createdAt),
    // What somebody has to finish: few among many.
    index("note_unsigned")
      .on(t.author)
      .where(sql`${t.signedAt} is null`),
    index("note_cosign")
      .on(t.cosignBy)
      .where(sql`${t.cosignedAt} is null`),
  ],
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

/** What was added to a note after it was signed off. Append-only. */
export const noteAddendum = pgTable(
  "note_addendum",
  {
    id: idColumn<"NoteAddendum">("id").primaryKey(),
    noteId: idColumn<"Note">("note_id")
      .notNull()
      .references(() => note.id),
    by: text("by").$type<Id<"Staff">>().notNull(),
    at: instantColumn("at").notNull(),
    /** Sealed text. */
    sealed: sealedColumn("sealed").notNull(),
  },
  (t) => [index("note_addendum_note").on(t.noteId)],
);

/** A take-home as a client was given it. A later version takes the place of the one before. Append-only. */
export const takeHome = pgTable(
  "take_home",
  {
    noteId: idColumn<"Note">("note_id")
      .notNull()
      .references(() => note.id),
    version: integer("version").notNull(),
    /** What their link opens; in it there is nothing else. */
    packetId: idColumn<"Packet">("packet_id")
      .notNull()
      .references(() => packet.id),
    sharedAt: instantColumn("shared_at").notNull(),
    sharedBy: text("shared_by").$type<Id<"Staff">>().notNull(),
    /** Sealed document of what stood below the line, and nothing of what stood above it. */
    sealed: sealedColumn("sealed").notNull(),
  },
  (t) => [primaryKey({ columns: [t.noteId, t.version] }), index("take_home_packet").on(t.packetId)],
);

/** Who has a note open just now. */
export const noteDesk = pgTable(
  "note_desk",
  {
    /** Of the browser's, made up by it. */
    page: text("page").primaryKey(),
    noteId: idColumn<"Note">("note_id")
      .notNull()
      .references(() => note.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    since: instantColumn("since").notNull(),
    seenAt: instantColumn("seen_at").notNull(),
  },
  (t) => [index("note_desk_note").on(t.noteId)],
);

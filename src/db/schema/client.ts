import { bigint, index, jsonb, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
import type { ChartField } from "../../core/chart";
import type { Id } from "../../core/shared";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice, staff } from "./practice";

export const client = pgTable(
  "client",
  {
    id: idColumn<"Client">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    /** Sealed projection of the chart's identity fields, rewritten with every posting: lists need names without folding every chart. */
    identity: sealedColumn("identity").notNull(),
    language: text("language").notNull().default("en"),
    zone: text("zone"),
    prefers: text("prefers").$type<"email" | "text">().notNull().default("email"),
    createdAt: instantColumn("created_at").notNull(),
  },
  (t) => [index("client_practice").on(t.practiceId)],
);

export const relation = pgTable(
  "relation",
  {
    id: idColumn<"Relation">("id").primaryKey(),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    kind: text("kind").$type<"guardian" | "parent" | "partner" | "supervisor">().notNull(),
    prefers: text("prefers").$type<"email" | "text">().notNull().default("email"),
    /** Sealed { firstName, lastName, email?, phone? }. */
    person: sealedColumn("person").notNull(),
    /** Null for those who were there before it was kept. */
    createdAt: instantColumn("created_at"),
    /** No longer around the client: never written to again, and still named where they answered. */
    endedAt: instantColumn("ended_at"),
  },
  (t) => [index("relation_client").on(t.clientId)],
);

export const visitType = pgTable("visit_type", {
  id: idColumn<"VisitType">("id").primaryKey(),
  practiceId: idColumn<"Practice">("practice_id")
    .notNull()
    .references(() => practice.id),
  name: text("name").notNull(),
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
  },
  (t) => [index("visit_day").on(t.practiceId, t.startsAt), index("visit_client").on(t.clientId)],
);

/** A chart field of the practice's own, beside the built-in ones. It is never deleted: chart entries name it by its key. */
export const chartField = pgTable(
  "chart_field",
  {
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    key: text("key").notNull(),
    requestId: text("request_id").notNull(),
    field: jsonb("field").$type<ChartField>().notNull(),
    createdAt: instantColumn("created_at").notNull(),
    /** Not asked for any more; what the charts hold in it stays. */
    retiredAt: instantColumn("retired_at"),
  },
  (t) => [primaryKey({ columns: [t.practiceId, t.key] }), uniqueIndex("chart_field_request").on(t.requestId)],
);

/** One act of posting or reversing. `requestId` makes a second press find the first. Append-only. */
export const posting = pgTable(
  "posting",
  {
    id: idColumn<"Posting">("id").primaryKey(),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    requestId: text("request_id").notNull(),
    kind: text("kind").$type<"post" | "reverse" | "start">().notNull(),
    packetId: idColumn<"Packet">("packet_id"),
    reverses: idColumn<"Posting">("reverses"),
    by: text("by").notNull(),
    at: instantColumn("at").notNull(),
    seq: bigint("seq", { mode: "number" }).generatedAlwaysAsIdentity(),
  },
  (t) => [
    uniqueIndex("posting_request").on(t.requestId),
    uniqueIndex("posting_reverses").on(t.reverses),
    index("posting_client").on(t.clientId),
  ],
);

/** The ledger. The change and its source are sealed; order and attribution are in clear. Append-only. */
export const chartEntry = pgTable(
  "chart_entry",
  {
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    seq: bigint("seq", { mode: "number" }).notNull(),
    postingId: idColumn<"Posting">("posting_id")
      .notNull()
      .references(() => posting.id),
    at: instantColumn("at").notNull(),
    by: text("by").notNull(),
    sealed: sealedColumn("sealed").notNull(),
  },
  (t) => [uniqueIndex("chart_entry_key").on(t.clientId, t.seq)],
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

import { boolean, customType, index, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { sql } from "drizzle-orm";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { staff } from "./staff";

/** A transaction's number, as text: it goes beyond what a JavaScript number holds. */
const transactionColumn = customType<{ data: string; driverData: string }>({ dataType: () => "xid8" });

export const client = pgTable(
  "client",
  {
    id: idColumn<"Client">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    /**
     * Sealed projection of the chart's identity fields, rewritten with every posting: lists need names without folding
     * every chart.
     */
    identity: sealedColumn("identity").notNull(),
    /** What is theirs is sealed with it. Null once they were erased: the key is destroyed. */
    keyId: idColumn<"ClientKey">("key_id"),
    erasedAt: instantColumn("erased_at"),
    language: text("language").notNull().default("en"),
    zone: text("zone"),
    prefers: text("prefers").$type<"email" | "text">().notNull().default("email"),
    createdAt: instantColumn("created_at").notNull(),
    /** No longer come: found where one asks for them, and written to by nothing. */
    archivedAt: instantColumn("archived_at"),
    /** Turned out to be one with another client: what was theirs is there now. */
    mergedInto: idColumn<"Client">("merged_into"),
    /** The made-up client to try things on: left out of every count. */
    isTest: boolean("is_test").notNull().default(false),
    /** The transaction that last changed them or somebody around them: what a list kept in memory has not seen yet. */
    changedIn: transactionColumn("changed_in")
      .notNull()
      .default(sql`pg_current_xact_id()`),
  },
  (t) => [index("client_practice").on(t.practiceId), index("client_changed").on(t.practiceId, t.changedIn)],
);

/** Whose clients they are; several may share one. */
export const clientStaff = pgTable(
  "client_staff",
  {
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.staffId] }), index("client_staff_of").on(t.staffId)],
);

/** Somebody opened a client who is not theirs, with a reason, for a while. Append-only. */
export const clientOpening = pgTable(
  "client_opening",
  {
    id: idColumn<"Opening">("id").primaryKey(),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    at: instantColumn("at").notNull(),
    until: instantColumn("until").notNull(),
    /** Sealed text. */
    reason: sealedColumn("reason").notNull(),
  },
  (t) => [index("client_opening_of").on(t.staffId, t.until), index("client_opening_client").on(t.clientId)],
);

/** Two records of one person were made one; undone, each has its own again. */
export const clientMerge = pgTable(
  "client_merge",
  {
    id: idColumn<"Merge">("id").primaryKey(),
    keptId: idColumn<"Client">("kept_id")
      .notNull()
      .references(() => client.id),
    goneId: idColumn<"Client">("gone_id")
      .notNull()
      .references(() => client.id),
    at: instantColumn("at").notNull(),
    by: text("by").notNull(),
    /** Which rows went over, by their table. */
    moved: jsonb("moved").$type<Readonly<Record<string, readonly string[]>>>().notNull(),
    /** The posting that brought the chart of the one into the other's; null where there was nothing to bring. */
    postingId: idColumn<"Posting">("posting_id"),
    undoneAt: instantColumn("undone_at"),
  },
  (t) => [index("client_merge_kept").on(t.keptId), index("client_merge_gone").on(t.goneId)],
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
    /** The client's, from when they were added; null once that client was erased. */
    keyId: idColumn<"ClientKey">("key_id"),
    /** Null for those who were there before it was kept. */
    createdAt: instantColumn("created_at"),
    /** No longer around the client: never written to again, and still named where they answered. */
    endedAt: instantColumn("ended_at"),
  },
  (t) => [index("relation_client").on(t.clientId)],
);

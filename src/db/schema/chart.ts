import type { ChartField } from "../../core/chart";
import { jsonb, pgTable, primaryKey, text, uniqueIndex, bigint, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { client } from "./client";

/**
 * A chart field of the practice's own, beside the built-in ones. It is never deleted: chart entries name it by its key.
 */
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

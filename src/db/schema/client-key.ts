import { index, pgTable, text } from "drizzle-orm/pg-core";
import { client } from "./client";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { staff } from "./staff";

/**
 * A client's own data key. What is sealed names its key, so that what a merge moved to another client stays with the
 * key it was written under.
 */
export const clientKey = pgTable("client_key", {
  id: idColumn<"ClientKey">("id").primaryKey(),
  /** The key, sealed with the installation's; null once it was destroyed. */
  sealed: sealedColumn("sealed"),
  createdAt: instantColumn("created_at").notNull(),
  destroyedAt: instantColumn("destroyed_at"),
  /** The table was written anew since, so that the key lies nowhere on its disk. */
  scrubbedAt: instantColumn("scrubbed_at"),
});

/** Somebody was erased. Append-only. */
export const clientErasure = pgTable("client_erasure", {
  clientId: idColumn<"Client">("client_id")
    .primaryKey()
    .references(() => client.id),
  at: instantColumn("at").notNull(),
  by: text("by").notNull(),
  staffId: idColumn<"Staff">("staff_id")
    .notNull()
    .references(() => staff.id),
  /** Sealed text, with the practice's key: it must outlive the client's. */
  reason: sealedColumn("reason").notNull(),
});

/** Nothing of this client may be erased while a hold stands. */
export const clientHold = pgTable(
  "client_hold",
  {
    id: idColumn<"Hold">("id").primaryKey(),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    at: instantColumn("at").notNull(),
    by: text("by").notNull(),
    /** Sealed text. */
    reason: sealedColumn("reason").notNull(),
    endedAt: instantColumn("ended_at"),
    endedBy: text("ended_by"),
  },
  (t) => [index("client_hold_client").on(t.clientId)],
);

import { boolean, pgTable, text, uniqueIndex, bigint } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { packetPart } from "./packet";

/** One saved answer (or row order). The key is sealed with the value: it tells which question was answered. */
export const answer = pgTable(
  "answer",
  {
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    slot: text("slot").notNull(),
    sealed: sealedColumn("sealed").notNull(),
    revision: bigint("revision", { mode: "number" }).notNull(),
    /** Cleared again: counts as not answered. */
    blank: boolean("blank").notNull(),
    /** Came from the chart, and the client has not said yet that it is right. */
    prefilled: boolean("prefilled").notNull().default(false),
    /** Whose link it was saved with, and the digest of that device's door pass; null for what came from the chart. */
    byLink: idColumn<"Link">("by_link"),
    byPass: text("by_pass"),
    savedAt: instantColumn("saved_at").notNull(),
  },
  (t) => [uniqueIndex("answer_key").on(t.partId, t.slot)],
);

import { pgTable, text, bigint, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { packetPart } from "./packet";

/** Append-only. */
export const signature = pgTable(
  "signature",
  {
    id: idColumn<"Signature">("id").primaryKey(),
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    /** The signature place it stands at; empty when the questionnaire is signed as a whole. */
    place: text("place").notNull().default(""),
    /** Sealed signed statement. */
    statement: sealedColumn("statement").notNull(),
    /** SHA-256 of the statement's canonical bytes. */
    digest: text("digest").notNull(),
    at: instantColumn("at").notNull(),
    address: text("address").notNull(),
    device: text("device").notNull(),
    /** Sealed: how it was made, besides what was signed (see core/signing's Evidence). Null in those from before. */
    evidence: sealedColumn("evidence"),
    /** The order of signing; two may fall into the same millisecond. */
    seq: bigint("seq", { mode: "number" }).generatedAlwaysAsIdentity(),
  },
  (t) => [index("signature_part").on(t.partId)],
);

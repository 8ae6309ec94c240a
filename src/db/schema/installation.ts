import { integer, pgTable } from "drizzle-orm/pg-core";
import { instantColumn, sealedColumn } from "./columns";

/** One row: what this database knows of the installation it belongs to. */
export const installation = pgTable("installation", {
  id: integer("id").primaryKey().default(1),
  /** Sealed with the installation's key: what seals, marks and digests everything that is not a client's. */
  secrets: sealedColumn("secrets").notNull(),
  createdAt: instantColumn("created_at").notNull(),
});

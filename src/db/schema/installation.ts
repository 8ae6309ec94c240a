import { integer, pgTable, text } from "drizzle-orm/pg-core";
import { instantColumn } from "./columns";

/** One row: what this database knows of the installation it belongs to. */
export const installation = pgTable("installation", {
  id: integer("id").primaryKey().default(1),
  /** Made with the keys: tells whether those that are given are the ones this was sealed with. */
  keyCheck: text("key_check").notNull(),
  createdAt: instantColumn("created_at").notNull(),
});

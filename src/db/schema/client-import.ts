import type { ImportState } from "../../core/chart";
import { index, integer, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { staff } from "./staff";

/** A file of clients that is brought in: its rows are checked first, then added, a few at a time. */
export const clientImport = pgTable("client_import", {
  id: idColumn<"Import">("id").primaryKey(),
  practiceId: idColumn<"Practice">("practice_id")
    .notNull()
    .references(() => practice.id),
  staffId: idColumn<"Staff">("staff_id")
    .notNull()
    .references(() => staff.id),
  createdAt: instantColumn("created_at").notNull(),
  /** Nothing is added before. */
  startedAt: instantColumn("started_at"),
  finishedAt: instantColumn("finished_at"),
});

/** One row of such a file. */
export const clientImportRow = pgTable(
  "client_import_row",
  {
    importId: idColumn<"Import">("import_id")
      .notNull()
      .references(() => clientImport.id, { onDelete: "cascade" }),
    /** The line in the file. */
    line: integer("line").notNull(),
    state: text("state").$type<ImportState>().notNull(),
    /** Sealed: what it held, and why it is refused. Emptied once it was added. */
    sealed: sealedColumn("sealed"),
  },
  (t) => [primaryKey({ columns: [t.importId, t.line] }), index("client_import_state").on(t.importId, t.state)],
);

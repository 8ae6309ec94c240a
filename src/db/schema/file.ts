import { integer, pgTable, text, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { packetPart } from "./packet";

/** A file: what a client gave as an answer, or the PDF of a worksheet. Never changed. */
export const storedFile = pgTable(
  "stored_file",
  {
    id: idColumn<"File">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    /** The part whose client gave it; null for what belongs to the practice. */
    partId: idColumn<"Part">("part_id").references(() => packetPart.id),
    contentType: text("content_type").notNull(),
    /** In bytes, as stored. */
    size: integer("size").notNull(),
    /** Sealed { title, data: base64 }. */
    sealed: sealedColumn("sealed").notNull(),
    createdAt: instantColumn("created_at").notNull(),
  },
  (t) => [index("file_part").on(t.partId)],
);

/** A file of the practice's that goes along with packets. */
export const leaflet = pgTable(
  "leaflet",
  {
    id: idColumn<"Leaflet">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    fileId: idColumn<"File">("file_id").notNull(),
    title: text("title").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    retiredAt: instantColumn("retired_at"),
  },
  (t) => [index("leaflet_practice").on(t.practiceId)],
);

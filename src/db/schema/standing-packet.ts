import type { Id } from "../../core/shared";
import type { StandingLine } from "../../core/packet";
import { jsonb, pgTable, text, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";
import { practice } from "./practice";

/** A reusable list of questionnaires, in order. */
export const standingPacket = pgTable(
  "standing_packet",
  {
    id: idColumn<"StandingPacket">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    title: text("title").notNull(),
    questionnaires: jsonb("questionnaires").$type<readonly StandingLine[]>().notNull(),
    /** The kinds of visit it is meant for. */
    visitTypes: jsonb("visit_types").$type<readonly Id<"VisitType">[]>().notNull().default([]),
    leaflets: jsonb("leaflets").$type<readonly Id<"Leaflet">[]>().notNull().default([]),
    updatedAt: instantColumn("updated_at").notNull(),
  },
  (t) => [index("standing_packet_practice").on(t.practiceId)],
);

import { pgTable, text, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";
import { practice } from "./practice";
import { staff } from "./staff";
import { client } from "./client";

export const visitType = pgTable("visit_type", {
  id: idColumn<"VisitType">("id").primaryKey(),
  practiceId: idColumn<"Practice">("practice_id")
    .notNull()
    .references(() => practice.id),
  name: text("name").notNull(),
});

export const visit = pgTable(
  "visit",
  {
    id: idColumn<"Visit">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    visitTypeId: idColumn<"VisitType">("visit_type_id")
      .notNull()
      .references(() => visitType.id),
    startsAt: instantColumn("starts_at").notNull(),
    endsAt: instantColumn("ends_at").notNull(),
  },
  (t) => [index("visit_day").on(t.practiceId, t.startsAt), index("visit_client").on(t.clientId)],
);

import { pgTable, text, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";

export const client = pgTable(
  "client",
  {
    id: idColumn<"Client">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    /**
     * Sealed projection of the chart's identity fields, rewritten with every posting: lists need names without folding
     * every chart.
     */
    identity: sealedColumn("identity").notNull(),
    language: text("language").notNull().default("en"),
    zone: text("zone"),
    prefers: text("prefers").$type<"email" | "text">().notNull().default("email"),
    createdAt: instantColumn("created_at").notNull(),
  },
  (t) => [index("client_practice").on(t.practiceId)],
);

export const relation = pgTable(
  "relation",
  {
    id: idColumn<"Relation">("id").primaryKey(),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    kind: text("kind").$type<"guardian" | "parent" | "partner" | "supervisor">().notNull(),
    prefers: text("prefers").$type<"email" | "text">().notNull().default("email"),
    /** Sealed { firstName, lastName, email?, phone? }. */
    person: sealedColumn("person").notNull(),
    /** Null for those who were there before it was kept. */
    createdAt: instantColumn("created_at"),
    /** No longer around the client: never written to again, and still named where they answered. */
    endedAt: instantColumn("ended_at"),
  },
  (t) => [index("relation_client").on(t.clientId)],
);

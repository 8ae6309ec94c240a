import type { PlanMemory, PostingPlan } from "../../core/chart";
import { boolean, index, integer, jsonb, pgTable, primaryKey, text, unique } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { packet, packetPart } from "./packet";
import { practice } from "./practice";
import { questionnaire } from "./questionnaire";
import { staff } from "./staff";

/** Where the lines of a questionnaire go, as far as somebody said so: for the practice, or for one of its staff. */
export const postingPlan = pgTable(
  "posting_plan",
  {
    id: idColumn<"PostingPlan">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    questionnaireId: idColumn<"Questionnaire">("questionnaire_id")
      .notNull()
      .references(() => questionnaire.id),
    /** Whose variant it is; null for the practice's plan. */
    staffId: idColumn<"Staff">("staff_id").references(() => staff.id),
    revision: integer("revision").notNull(),
    plan: jsonb("plan").$type<PostingPlan>().notNull(),
    /** Where each of its wordings goes, for plans of other questionnaires to learn from. */
    memory: jsonb("memory").$type<PlanMemory>().notNull(),
    /** A variant that colleagues may take over. */
    offered: boolean("offered").notNull().default(false),
    updatedAt: instantColumn("updated_at").notNull(),
    updatedBy: text("updated_by").notNull(),
  },
  (t) => [unique("posting_plan_of").on(t.questionnaireId, t.staffId).nullsNotDistinct()],
);

/** A remark of staff's beside an answer of a return. The client never sees it. */
export const marginNote = pgTable(
  "margin_note",
  {
    id: idColumn<"MarginNote">("id").primaryKey(),
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    /** The answer's key. */
    key: text("key").notNull(),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    /** Sealed { text }. */
    sealed: sealedColumn("sealed").notNull(),
    createdAt: instantColumn("created_at").notNull(),
  },
  (t) => [index("margin_note_part").on(t.partId)],
);

/** What was decided about a return and is not posted yet, so that it can be left and gone on with. */
export const reconcileDraft = pgTable(
  "reconcile_draft",
  {
    packetId: idColumn<"Packet">("packet_id")
      .notNull()
      .references(() => packet.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    /** Sealed { decisions, redirects }. */
    sealed: sealedColumn("sealed").notNull(),
    updatedAt: instantColumn("updated_at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.packetId, t.staffId] })],
);

import type { LibraryRight } from "../../core/shared";
import type { QuestionnaireKind } from "../../core/questionnaire";
import { boolean, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";
import { practice } from "./practice";
import { staff } from "./staff";

export const questionnaire = pgTable(
  "questionnaire",
  {
    id: idColumn<"Questionnaire">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    url: text("url").notNull(),
    title: text("title").notNull(),
    kind: text("kind").$type<QuestionnaireKind>().notNull(),
    state: text("state").$type<"draft" | "active" | "retired">().notNull(),
    /** The version new packets get; null until the first is put in use. */
    inUse: idColumn<"Version">("in_use"),
    /** A consent every client has to have given. */
    neededByAll: boolean("needed_by_all").notNull().default(false),
    /** What every member of staff may do with it; owners may always change it. */
    everyone: text("everyone").$type<LibraryRight>().notNull().default("edit"),
    createdAt: instantColumn("created_at").notNull(),
  },
  (t) => [uniqueIndex("questionnaire_url").on(t.practiceId, t.url)],
);

/** What one member of staff may do with a questionnaire beyond what everyone may. */
export const questionnaireShare = pgTable(
  "questionnaire_share",
  {
    questionnaireId: idColumn<"Questionnaire">("questionnaire_id")
      .notNull()
      .references(() => questionnaire.id, { onDelete: "cascade" }),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    may: text("may").$type<LibraryRight>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.questionnaireId, t.staffId] })],
);

/** A version never changes (a trigger refuses); packets under way stay on theirs. */
export const questionnaireVersion = pgTable(
  "questionnaire_version",
  {
    id: idColumn<"Version">("id").primaryKey(),
    questionnaireId: idColumn<"Questionnaire">("questionnaire_id")
      .notNull()
      .references(() => questionnaire.id),
    number: integer("number").notNull(),
    fhir: jsonb("fhir").$type<Record<string, unknown>>().notNull(),
    createdAt: instantColumn("created_at").notNull(),
    createdBy: text("created_by").notNull(),
    /** Who agreed to an earlier one has to agree anew. */
    material: boolean("material").notNull().default(false),
  },
  (t) => [uniqueIndex("version_number").on(t.questionnaireId, t.number)],
);

/**
 * Pages on which a draft is open right now; one of them writes. Of a moment only: what was not seen for a while is
 * gone.
 */
export const draftDesk = pgTable(
  "draft_desk",
  {
    page: text("page").primaryKey(),
    questionnaireId: idColumn<"Questionnaire">("questionnaire_id")
      .notNull()
      .references(() => questionnaire.id, { onDelete: "cascade" }),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    writes: boolean("writes").notNull(),
    since: instantColumn("since").notNull(),
    seenAt: instantColumn("seen_at").notNull(),
  },
  (t) => [index("draft_desk_questionnaire").on(t.questionnaireId)],
);

/** What is being written: at most one a questionnaire. Putting it in use makes a version of it. */
export const questionnaireDraft = pgTable("questionnaire_draft", {
  questionnaireId: idColumn<"Questionnaire">("questionnaire_id")
    .primaryKey()
    .references(() => questionnaire.id),
  fhir: jsonb("fhir").$type<Record<string, unknown>>().notNull(),
  /** Named anew by the page with each save, so that none ever comes again; who saves on another one is told. */
  revision: text("revision").notNull(),
  updatedAt: instantColumn("updated_at").notNull(),
  updatedBy: text("updated_by").notNull(),
});

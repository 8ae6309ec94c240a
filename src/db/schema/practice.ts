import type { ChartLayout } from "../../core/chart";
import type { LetterKind, PostSimulation } from "../../core/messages";
import { startingMeasurePolicy, type MeasurePolicy } from "../../core/measures";
import type { RetentionRules } from "../../core/retention";
import type { SigningPolicy } from "../../core/signing";
import type { RightSets } from "../../core/team";
import { startingDoor, startingPages, type DoorPolicy, type PagePolicy } from "../../core/packet";
import { boolean, integer, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";

export const practice = pgTable("practice", {
  id: idColumn<"Practice">("id").primaryKey(),
  name: text("name").notNull(),
  zone: text("zone").notNull(),
  locale: text("locale").notNull().default("en-GB"),
  email: text("email").notNull(),
  /** Lines as on an envelope. */
  address: text("address").notNull().default(""),
  /** ISO 3166-1 alpha-2: how addresses, phone numbers and dates are written. */
  country: text("country").notNull().default("GB"),
  linkDays: integer("link_days").notNull().default(14),
  /** Languages the practice works in, as tags; they are offered wherever a client's language is chosen. */
  languages: jsonb("languages").$type<readonly string[]>().notNull().default(["en", "es", "fr", "ar"]),
  door: jsonb("door").$type<DoorPolicy>().notNull().default(startingDoor),
  /** What the client's pages do beyond asking. */
  pages: jsonb("pages").$type<PagePolicy>().notNull().default(startingPages),
  /** What each role may, where it is not the starting set. */
  rights: jsonb("rights").$type<RightSets>().notNull().default({}),
  /** Whoever has no second factor yet can do nothing but set one up. */
  secondFactorRequired: boolean("second_factor_required").notNull().default(false),
  /** How the Post room's own mail server and phone behave. */
  simulation: text("simulation").$type<PostSimulation>().notNull().default("deliver"),
  /** For how long what is kept; nothing is erased by itself. */
  retention: jsonb("retention").$type<RetentionRules>().notNull().default({}),
  /** Whether the owner gets the journal's anchor by mail each day. */
  mailsAnchors: boolean("mails_anchors").notNull().default(false),
  /** What it agreed to about electronic signatures; nothing is sent to be signed before. */
  signing: jsonb("signing").$type<SigningPolicy>().notNull().default({}),
  /** How its charts are laid out, where that is not the starting way. */
  chartLayout: jsonb("chart_layout").$type<ChartLayout>().notNull().default({}),
  measures: jsonb("measures").$type<MeasurePolicy>().notNull().default(startingMeasurePolicy),
  /** A picture of its own, on clients' pages, letters and papers. */
  logoId: idColumn<"File">("logo_id"),
  createdAt: instantColumn("created_at").notNull(),
});

/** A practice's own wording of a letter; without one, the starting wording is sent. */
export const wording = pgTable(
  "wording",
  {
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    kind: text("kind").$type<LetterKind>().notNull(),
    way: text("way").$type<"email" | "text">().notNull(),
    language: text("language").notNull(),
    subject: text("subject").notNull(),
    body: text("body").notNull(),
    updatedAt: instantColumn("updated_at").notNull(),
    updatedBy: text("updated_by").notNull(),
  },
  (t) => [primaryKey({ columns: [t.practiceId, t.kind, t.way, t.language] })],
);

import { boolean, integer, jsonb, pgTable, primaryKey, text, uniqueIndex, bigint, index } from "drizzle-orm/pg-core";
import type { LetterKind, PostSimulation } from "../../core/messages";
import { startingDoor, startingPages, type DoorPolicy, type PagePolicy } from "../../core/packet";
import type { Role } from "../../core/shared";
import { idColumn, instantColumn, sealedColumn } from "./columns";

export const practice = pgTable("practice", {
  id: idColumn<"Practice">("id").primaryKey(),
  name: text("name").notNull(),
  zone: text("zone").notNull(),
  locale: text("locale").notNull().default("en-GB"),
  email: text("email").notNull(),
  supportText: text("support_text").notNull().default(""),
  linkDays: integer("link_days").notNull().default(14),
  /** How the Post room's own mail server and phone behave. */
  door: jsonb("door").$type<DoorPolicy>().notNull().default(startingDoor),
  /** What the client's pages do beyond asking. */
  pages: jsonb("pages").$type<PagePolicy>().notNull().default(startingPages),
  simulation: text("simulation").$type<PostSimulation>().notNull().default("deliver"),
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

export const staff = pgTable(
  "staff",
  {
    id: idColumn<"Staff">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    email: text("email").notNull(),
    name: text("name").notNull(),
    title: text("title").notNull().default(""),
    role: text("role").$type<Role>().notNull(),
    passwordHash: text("password_hash").notNull(),
    /** Sealed base32 secret; `totpOn` only after the first code was right. */
    totpSecret: sealedColumn("totp_secret"),
    totpOn: boolean("totp_on").notNull().default(false),
    totpLastStep: bigint("totp_last_step", { mode: "number" }).notNull().default(0),
    active: boolean("active").notNull().default(true),
  },
  (t) => [uniqueIndex("staff_email").on(t.email)],
);

export const staffSession = pgTable("staff_session", {
  digest: text("digest").primaryKey(),
  staffId: idColumn<"Staff">("staff_id")
    .notNull()
    .references(() => staff.id),
  /** False between the password and the second factor: such a session opens nothing. */
  complete: boolean("complete").notNull(),
  createdAt: instantColumn("created_at").notNull(),
  expiresAt: instantColumn("expires_at").notNull(),
});

/** Counts tries per account, address or link within a window; keys are digests where they would name a person. */
export const limit = pgTable("rate_limit", {
  key: text("key").primaryKey(),
  windowStart: instantColumn("window_start").notNull(),
  count: integer("count").notNull(),
});

export const noteLayout = pgTable(
  "note_layout",
  {
    id: text("id").notNull(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    position: integer("position").notNull(),
    layout: jsonb("layout").notNull(),
  },
  (t) => [uniqueIndex("note_layout_key").on(t.practiceId, t.id)],
);

export const journalHead = pgTable("journal_head", {
  practiceId: idColumn<"Practice">("practice_id")
    .primaryKey()
    .references(() => practice.id),
  seq: bigint("seq", { mode: "number" }).notNull(),
  prevHash: text("prev_hash").notNull(),
  hash: text("hash").notNull(),
});

/**
 * Append-only (a trigger refuses update and delete); each row's hash covers the row before it. Its practice is the head's,
 * out of which every row is written: a second reference would cost each save a lookup and a lock.
 */
export const journal = pgTable(
  "journal",
  {
    practiceId: idColumn<"Practice">("practice_id").notNull(),
    seq: bigint("seq", { mode: "number" }).notNull(),
    at: instantColumn("at").notNull(),
    actor: text("actor").notNull(),
    action: text("action").notNull(),
    subject: text("subject").notNull(),
    address: text("address").notNull(),
    detail: jsonb("detail").$type<Record<string, string | number | boolean>>().notNull(),
    prevHash: text("prev_hash").notNull(),
    hash: text("hash").notNull(),
  },
  (t) => [uniqueIndex("journal_key").on(t.practiceId, t.seq), index("journal_subject").on(t.subject)],
);

import type { Role } from "../../core/shared";
import { boolean, index, integer, jsonb, pgTable, text, uniqueIndex, bigint } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";

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
    /** Has at least one passkey, which stands for the second factor too. */
    passkeyOn: boolean("passkey_on").notNull().default(false),
    totpLastStep: bigint("totp_last_step", { mode: "number" }).notNull().default(0),
    /** False once somebody has left: they sign in no more, and stay named where they acted. */
    active: boolean("active").notNull().default(true),
    /** Until somebody has taken up their invitation there is no password that would fit. */
    joinedAt: instantColumn("joined_at"),
    leftAt: instantColumn("left_at"),
    /** Single keys do things, unless somebody turned them off for themselves. */
    singleKeys: boolean("single_keys").notNull().default(true),
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
  /** What the browser says it is, to tell one's devices apart. */
  device: text("device").notNull().default(""),
  /** Within a minute; where it is not known, since it was opened. */
  seenAt: instantColumn("seen_at"),
  /** What a passkey has to sign next, once. */
  challenge: text("challenge"),
  /** Until when their stored signature may be used without another proof of who they are. */
  releasedUntil: instantColumn("released_until"),
});

/** How a member of staff signs: sealed, and used only after they proved anew who they are. */
export const staffMark = pgTable("staff_mark", {
  staffId: idColumn<"Staff">("staff_id")
    .primaryKey()
    .references(() => staff.id),
  mark: sealedColumn("mark").notNull(),
  at: instantColumn("at").notNull(),
});

/** A device's key that stands for the second factor; what is kept of it opens nothing. */
export const staffPasskey = pgTable(
  "staff_passkey",
  {
    /** As WebAuthn names it, base64url. */
    id: text("id").primaryKey(),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    publicKey: sealedColumn("public_key").notNull(),
    counter: bigint("counter", { mode: "number" }).notNull(),
    transports: jsonb("transports").$type<readonly string[]>().notNull(),
    name: text("name").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    usedAt: instantColumn("used_at"),
  },
  (t) => [index("staff_passkey_staff").on(t.staffId)],
);

/** What a letter brings to set a password with, once: its digest. */
export const staffTicket = pgTable("staff_ticket", {
  digest: text("digest").primaryKey(),
  staffId: idColumn<"Staff">("staff_id")
    .notNull()
    .references(() => staff.id),
  kind: text("kind").$type<"invite" | "reset">().notNull(),
  expiresAt: instantColumn("expires_at").notNull(),
});

/** For who lost their authenticator: each works once, and only its digest is kept. */
export const recoveryCode = pgTable(
  "recovery_code",
  {
    digest: text("digest").primaryKey(),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
  },
  (t) => [index("recovery_code_staff").on(t.staffId)],
);

/** Counts tries per account, address or link within a window; keys are digests where they would name a person. */
export const limit = pgTable("rate_limit", {
  key: text("key").primaryKey(),
  windowStart: instantColumn("window_start").notNull(),
  count: integer("count").notNull(),
  /** No try counts before. */
  waitsUntil: instantColumn("waits_until"),
});

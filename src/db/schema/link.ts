import type { LinkRole } from "../../core/packet";
import { boolean, integer, pgTable, text, uniqueIndex, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn } from "./columns";
import { staff } from "./staff";
import { relation } from "./client";
import { packet } from "./packet";

export const personalLink = pgTable(
  "personal_link",
  {
    id: idColumn<"Link">("id").primaryKey(),
    packetId: idColumn<"Packet">("packet_id")
      .notNull()
      .references(() => packet.id),
    /** Whose it is, when that is not the client. */
    relationId: idColumn<"Relation">("relation_id").references(() => relation.id),
    role: text("role").$type<LinkRole>().notNull().default("fills"),
    /** Whose signature it is for; null in a link that fills in or reads. */
    signerId: idColumn<"Signer">("signer_id"),
    digest: text("digest").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    revokedAt: instantColumn("revoked_at"),
    /** The code that is out, as a digest; a new one replaces it. */
    codeDigest: text("code_digest"),
    codeExpiresAt: instantColumn("code_expires_at"),
    codeSentAt: instantColumn("code_sent_at"),
    /** The code was made by somebody of the practice who may not see answers. */
    codeUnseen: boolean("code_unseen").notNull().default(false),
    codesSent: integer("codes_sent").notNull().default(0),
    wrongCodes: integer("wrong_codes").notNull().default(0),
    lockedAt: instantColumn("locked_at"),
    /** The letter it went out in. */
    messageId: idColumn<"Message">("message_id"),
    /**
     * Given by somebody who may not see answers, and opened by what they know too: it shows nothing that was there
     * before.
     */
    unseen: boolean("unseen").notNull().default(false),
    /** Chosen on the page by who has this link. */
    language: text("language"),
  },
  (t) => [uniqueIndex("link_digest").on(t.digest), index("link_packet").on(t.packetId)],
);

/** A device that passed the door check. */
export const doorPass = pgTable("door_pass", {
  digest: text("digest").primaryKey(),
  packetId: idColumn<"Packet">("packet_id")
    .notNull()
    .references(() => packet.id),
  linkId: idColumn<"Link">("link_id")
    .notNull()
    .references(() => personalLink.id),
  /** Somebody proved who they are to us; false where the door stood open, or a device was handed over. */
  proved: boolean("proved").notNull().default(true),
  /** How: what a signature says of who made it. Empty where it was not kept yet. */
  way: text("way").notNull().default(""),
  /** Who handed over the practice's own device it is for. */
  handedBy: idColumn<"Staff">("handed_by").references(() => staff.id),
  /** Opened by somebody of the practice who may not see answers: it shows nothing but what was typed through it. */
  unseen: boolean("unseen").notNull().default(false),
  createdAt: instantColumn("created_at").notNull(),
  expiresAt: instantColumn("expires_at").notNull(),
});

import { sql } from "drizzle-orm";
import type { Id } from "../../core/shared";
import type { DoorWay, PacketState } from "../../core/packet";
import { boolean, integer, jsonb, pgTable, text, uniqueIndex, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { staff } from "./staff";
import { client, relation } from "./client";
import { visit } from "./visit";
import { questionnaireVersion } from "./questionnaire";

export const packet = pgTable(
  "packet",
  {
    id: idColumn<"Packet">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    requestId: text("request_id").notNull(),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    /** The client's key at the time: everything in it is sealed with that. Null once they were erased. */
    keyId: idColumn<"ClientKey">("key_id"),
    /** Who gets it and fills it in, when that is not the client. */
    relationId: idColumn<"Relation">("relation_id").references(() => relation.id),
    visitId: idColumn<"Visit">("visit_id").references(() => visit.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    state: text("state").$type<Exclude<PacketState, "lapsed">>().notNull(),
    createdAt: instantColumn("created_at").notNull(),
    sentAt: instantColumn("sent_at"),
    openedAt: instantColumn("opened_at"),
    returnedAt: instantColumn("returned_at"),
    returnedFrom: text("returned_from"),
    settledAt: instantColumn("settled_at"),
    expiresAt: instantColumn("expires_at").notNull(),
    /** The day it should be back, in the practice's zone; the page stays open until `expiresAt`. */
    dueOn: text("due_on"),
    /** What the client reads it in; their own language when nothing was chosen. */
    language: text("language"),
    /** Sealed text: a line to this client, in the letter. */
    personalLine: sealedColumn("personal_line"),
    nudgedAt: instantColumn("nudged_at"),
    /** How its door is opened, where not as the practice's policy says. */
    door: text("door").$type<DoorWay>(),
    /** Sealed text: what the client added when returning it. */
    comment: sealedColumn("comment"),
    /** Sealed: which answers it was sent back for, and why. */
    sentBack: sealedColumn("sent_back"),
    lockedAt: instantColumn("locked_at"),
    /** The same link asks anew each session: opened on another day after a return, it leads to a new packet. */
    repeats: boolean("repeats").notNull().default(false),
    /** The first packet of those that one link asked for; null in the first itself. */
    seriesOf: idColumn<"Packet">("series_of"),
    /** Leaflets that went with it. */
    leaflets: jsonb("leaflets").$type<readonly Id<"Leaflet">[]>().notNull().default([]),
    /** It asks for nothing: it is what a take-home is read through. */
    isTakeHome: boolean("is_take_home").notNull().default(false),
    /** Counted when returned, so that the Day sheet opens without unsealing answers. */
    alerts: integer("alerts").notNull().default(0),
  },
  (t) => [
    uniqueIndex("packet_request").on(t.requestId),
    index("packet_visit").on(t.visitId),
    index("packet_client").on(t.clientId),
    index("packet_state").on(t.practiceId, t.state),
    index("packet_returned").on(t.practiceId, t.returnedAt),
    index("packet_series").on(t.seriesOf),
  ],
);

export const packetPart = pgTable(
  "packet_part",
  {
    id: idColumn<"Part">("id").primaryKey(),
    packetId: idColumn<"Packet">("packet_id")
      .notNull()
      .references(() => packet.id),
    versionId: idColumn<"Version">("version_id")
      .notNull()
      .references(() => questionnaireVersion.id),
    position: integer("position").notNull(),
    /** Begun with what the chart held when it was sent. */
    prefill: boolean("prefill").notNull().default(false),
    postedAt: instantColumn("posted_at"),
    /** Sealed: scores and alerts as they were when it came back, so that lists open nothing else. */
    gist: sealedColumn("gist"),
    /** Everybody has signed: its paper is to be sealed. Null again once it is. */
    sealDueAt: instantColumn("seal_due_at"),
  },
  (t) => [
    index("part_packet").on(t.packetId),
    index("part_seal_due")
      .on(t.sealDueAt)
      .where(sql`${t.sealDueAt} is not null`),
  ],
);

import { bigint, boolean, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
import type { PostPurpose, PostState } from "../../core/messages";
import type { DoorWay, LinkRole, MailingState, PacketState, StandingLine } from "../../core/packet";
import type { QuestionnaireKind } from "../../core/questionnaire";
import type { Id, LibraryRight } from "../../core/shared";
import { client, relation, visit } from "./client";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice, staff } from "./practice";

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
  },
  (t) => [uniqueIndex("version_number").on(t.questionnaireId, t.number)],
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
    /** Counted when returned, so that the Day sheet opens without unsealing answers. */
    alerts: integer("alerts").notNull().default(0),
  },
  (t) => [
    uniqueIndex("packet_request").on(t.requestId),
    index("packet_visit").on(t.visitId),
    index("packet_client").on(t.clientId),
    index("packet_state").on(t.practiceId, t.state),
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
  },
  (t) => [index("part_packet").on(t.packetId)],
);

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

/** A file of the practice's that goes along with packets. */
export const leaflet = pgTable(
  "leaflet",
  {
    id: idColumn<"Leaflet">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    fileId: idColumn<"File">("file_id").notNull(),
    title: text("title").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    retiredAt: instantColumn("retired_at"),
  },
  (t) => [index("leaflet_practice").on(t.practiceId)],
);

/** The same packet for many people: each is written to in a transaction of its own, so that a crash leaves nobody twice. */
export const mailing = pgTable(
  "mailing",
  {
    id: idColumn<"Mailing">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    createdAt: instantColumn("created_at").notNull(),
    /** Sealed: what is sent, as `sendPacket` takes it. */
    wishes: sealedColumn("wishes").notNull(),
    stoppedAt: instantColumn("stopped_at"),
    finishedAt: instantColumn("finished_at"),
  },
  (t) => [index("mailing_practice").on(t.practiceId)],
);

export const mailingPerson = pgTable(
  "mailing_person",
  {
    /** Taken as the request's id of this person's packet. */
    id: idColumn<"MailingPerson">("id").primaryKey(),
    mailingId: idColumn<"Mailing">("mailing_id")
      .notNull()
      .references(() => mailing.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    position: integer("position").notNull(),
    state: text("state").$type<MailingState>().notNull().default("waiting"),
    packetId: idColumn<"Packet">("packet_id").references(() => packet.id),
  },
  (t) => [
    uniqueIndex("mailing_person_key").on(t.mailingId, t.clientId),
    index("mailing_person_state").on(t.mailingId, t.state),
  ],
);

/** One saved answer (or row order). The key is sealed with the value: it tells which question was answered. */
export const answer = pgTable(
  "answer",
  {
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    slot: text("slot").notNull(),
    sealed: sealedColumn("sealed").notNull(),
    revision: bigint("revision", { mode: "number" }).notNull(),
    /** Cleared again: counts as not answered. */
    blank: boolean("blank").notNull(),
    /** Came from the chart, and the client has not said yet that it is right. */
    prefilled: boolean("prefilled").notNull().default(false),
    /** Whose link it was saved with, and the digest of that device's door pass; null for what came from the chart. */
    byLink: idColumn<"Link">("by_link"),
    byPass: text("by_pass"),
    savedAt: instantColumn("saved_at").notNull(),
  },
  (t) => [uniqueIndex("answer_key").on(t.partId, t.slot)],
);

/** Append-only. */
export const signature = pgTable(
  "signature",
  {
    id: idColumn<"Signature">("id").primaryKey(),
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    /** The signature place it stands at; empty when the questionnaire is signed as a whole. */
    place: text("place").notNull().default(""),
    /** Sealed signed statement. */
    statement: sealedColumn("statement").notNull(),
    /** SHA-256 of the statement's canonical bytes. */
    digest: text("digest").notNull(),
    at: instantColumn("at").notNull(),
    address: text("address").notNull(),
    device: text("device").notNull(),
    /** The order of signing; two may fall into the same millisecond. */
    seq: bigint("seq", { mode: "number" }).generatedAlwaysAsIdentity(),
  },
  (t) => [index("signature_part").on(t.partId)],
);

/** A file: what a client gave as an answer, or the PDF of a worksheet. Never changed. */
export const storedFile = pgTable(
  "stored_file",
  {
    id: idColumn<"File">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    /** The part whose client gave it; null for what belongs to the practice. */
    partId: idColumn<"Part">("part_id").references(() => packetPart.id),
    contentType: text("content_type").notNull(),
    /** In bytes, as stored. */
    size: integer("size").notNull(),
    /** Sealed { title, data: base64 }. */
    sealed: sealedColumn("sealed").notNull(),
    createdAt: instantColumn("created_at").notNull(),
  },
  (t) => [index("file_part").on(t.partId)],
);

export const personalLink = pgTable(
  "personal_link",
  {
    id: idColumn<"Link">("id").primaryKey(),
    packetId: idColumn<"Packet">("packet_id")
      .notNull()
      .references(() => packet.id),
    /** Whose it is, when that is not the client. */
    relationId: idColumn<"Relation">("relation_id").references(() => relation.id),
    role: text("part").$type<LinkRole>().notNull().default("fills"),
    digest: text("digest").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    revokedAt: instantColumn("revoked_at"),
    /** The code that is out, as a digest; a new one replaces it. */
    codeDigest: text("code_digest"),
    codeExpiresAt: instantColumn("code_expires_at"),
    codeSentAt: instantColumn("code_sent_at"),
    codesSent: integer("codes_sent").notNull().default(0),
    wrongCodes: integer("wrong_codes").notNull().default(0),
    lockedAt: instantColumn("locked_at"),
    /** The letter it went out in. */
    messageId: idColumn<"Message">("message_id"),
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
  /** Who handed over the practice's own device it is for. */
  handedBy: idColumn<"Staff">("handed_by").references(() => staff.id),
  createdAt: instantColumn("created_at").notNull(),
  expiresAt: instantColumn("expires_at").notNull(),
});

/** The post room: what went out. `body` holds links and codes, so it is sealed like health data. */
export const postMessage = pgTable(
  "post_message",
  {
    id: idColumn<"Message">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    packetId: idColumn<"Packet">("packet_id").references(() => packet.id),
    channel: text("channel").$type<"email" | "text">().notNull(),
    purpose: text("purpose").$type<PostPurpose>().notNull(),
    state: text("state").$type<PostState>().notNull(),
    attempts: integer("attempts").notNull().default(0),
    /** When it is tried next; null where it is not to be tried. */
    nextAt: instantColumn("next_at"),
    /** Why it did not go out, as the other side said it. */
    trouble: text("trouble"),
    /** When the link in it was first used. */
    openedAt: instantColumn("opened_at"),
    sealed: sealedColumn("sealed").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    seq: bigint("seq", { mode: "number" }).generatedAlwaysAsIdentity(),
  },
  (t) => [index("post_practice").on(t.practiceId, t.seq)],
);

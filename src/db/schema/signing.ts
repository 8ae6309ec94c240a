import type { Signer } from "../../core/questionnaire";
import { bigint, boolean, index, integer, jsonb, pgTable, text, uniqueIndex } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { client, relation } from "./client";
import { packet, packetPart } from "./packet";
import { practice } from "./practice";
import { questionnaire, questionnaireVersion } from "./questionnaire";
import { staff } from "./staff";

/** Somebody who is to sign something of a packet: the client, somebody around them, staff, or anybody by name. */
export const signer = pgTable(
  "signer",
  {
    id: idColumn<"Signer">("id").primaryKey(),
    packetId: idColumn<"Packet">("packet_id")
      .notNull()
      .references(() => packet.id),
    kind: text("kind").$type<Signer>().notNull(),
    relationId: idColumn<"Relation">("relation_id").references(() => relation.id),
    staffId: idColumn<"Staff">("staff_id").references(() => staff.id),
    /** Sealed { name, email, title }: of who is neither the client nor on file. Null for all others, and once erased. */
    person: sealedColumn("person"),
    createdAt: instantColumn("created_at").notNull(),
    /** When a letter with a link of theirs went out last. */
    askedAt: instantColumn("asked_at"),
    openedAt: instantColumn("opened_at"),
  },
  (t) => [index("signer_packet").on(t.packetId), index("signer_staff").on(t.staffId)],
);

/** Who is to sign at one place of a part. A row that has ended is who was asked before. */
export const signerPlace = pgTable(
  "signer_place",
  {
    id: idColumn<"SignerPlace">("id").primaryKey(),
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    /** The signature place; empty when the questionnaire is signed as a whole. */
    place: text("place").notNull(),
    signerId: idColumn<"Signer">("signer_id")
      .notNull()
      .references(() => signer.id),
    createdAt: instantColumn("created_at").notNull(),
    /** It is their turn, and they were told. Null again once they signed: signing anew is asked anew. */
    askedAt: instantColumn("asked_at"),
    declinedAt: instantColumn("declined_at"),
    /** They would rather sign on paper. */
    paperAt: instantColumn("paper_at"),
    endedAt: instantColumn("ended_at"),
    /** Sealed text: why they declined, or why somebody else signs. */
    reason: sealedColumn("reason"),
  },
  (t) => [index("signer_place_part").on(t.partId), index("signer_place_signer").on(t.signerId)],
);

/** That a consent was talked over, as the practitioner recorded it. Append-only. */
export const talk = pgTable(
  "talk",
  {
    id: idColumn<"Talk">("id").primaryKey(),
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    staffId: idColumn<"Staff">("staff_id")
      .notNull()
      .references(() => staff.id),
    recordedAt: instantColumn("recorded_at").notNull(),
    /** Sealed { on, how, present, questions }. */
    sealed: sealedColumn("sealed").notNull(),
  },
  (t) => [index("talk_part").on(t.partId)],
);

/** A signed paper, sealed with the practice's certificate. A later signature makes another revision of the same number. */
export const sealedPaper = pgTable(
  "sealed_paper",
  {
    id: idColumn<"SealedPaper">("id").primaryKey(),
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    /** 1 for the first; one more each time what was signed changed. */
    number: integer("number").notNull(),
    /** 1 for the first; one more for each signature that was added. */
    revision: integer("revision").notNull(),
    /** Gone with the client's other files when they are erased. */
    fileId: idColumn<"File">("file_id").notNull(),
    /** SHA-256 of the file, in hex. */
    sha256: text("sha256").notNull(),
    /** The signatures that stand on it. */
    signatures: jsonb("signatures").$type<readonly string[]>().notNull(),
    createdAt: instantColumn("created_at").notNull(),
  },
  (t) => [
    uniqueIndex("sealed_paper_revision").on(t.partId, t.number, t.revision),
    index("sealed_paper_sha256").on(t.sha256),
  ],
);

/** What the practice seals papers with. Kept for ever: what was sealed with it is checked with it. */
export const sealCertificate = pgTable("seal_certificate", {
  id: idColumn<"SealCertificate">("id").primaryKey(),
  practiceId: idColumn<"Practice">("practice_id")
    .notNull()
    .references(() => practice.id),
  /** Makes seals, or time-stamps. */
  use: text("use").$type<"seal" | "time-stamp">().notNull(),
  /** X.509 in base64 DER, the practice's own first. */
  chain: jsonb("chain").$type<readonly string[]>().notNull(),
  /** SHA-256 of the first, in hex. */
  fingerprint: text("fingerprint").notNull(),
  /** Sealed PKCS #8 in base64; null once another one took its place. */
  key: sealedColumn("key"),
  /** The practice brought it; else it was made here. */
  brought: boolean("brought").notNull(),
  createdAt: instantColumn("created_at").notNull(),
  endedAt: instantColumn("ended_at"),
});

/** A consent that was given, once everybody has signed and it was talked over where it has to be. */
export const consent = pgTable(
  "consent",
  {
    id: idColumn<"Consent">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    clientId: idColumn<"Client">("client_id")
      .notNull()
      .references(() => client.id),
    partId: idColumn<"Part">("part_id")
      .notNull()
      .references(() => packetPart.id),
    questionnaireId: idColumn<"Questionnaire">("questionnaire_id")
      .notNull()
      .references(() => questionnaire.id),
    versionId: idColumn<"Version">("version_id")
      .notNull()
      .references(() => questionnaireVersion.id),
    /** Valid from and, where it runs out, until. */
    from: instantColumn("valid_from").notNull(),
    until: instantColumn("valid_until"),
    withdrawnAt: instantColumn("withdrawn_at"),
    /** `client`, or the name of the member of staff who recorded it. */
    withdrawnBy: text("withdrawn_by"),
    /** Sealed text. */
    reason: sealedColumn("reason"),
    /** What was signed changed since, so that it was given anew or not at all. */
    voidedAt: instantColumn("voided_at"),
    /** In which order they were given, whatever the clock said. */
    seq: bigint("seq", { mode: "number" }).generatedAlwaysAsIdentity(),
  },
  (t) => [
    index("consent_client").on(t.clientId),
    index("consent_practice").on(t.practiceId),
    index("consent_part").on(t.partId),
  ],
);

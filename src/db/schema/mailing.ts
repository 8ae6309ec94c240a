import type { MailingState } from "../../core/packet";
import { integer, pgTable, text, uniqueIndex, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { staff } from "./staff";
import { client } from "./client";
import { packet } from "./packet";

/**
 * The same packet for many people: each is written to in a transaction of its own, so that a crash leaves nobody twice.
 */
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

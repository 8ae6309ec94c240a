import type { PostPurpose, PostState } from "../../core/messages";
import { sql } from "drizzle-orm";
import { integer, pgTable, text, bigint, index } from "drizzle-orm/pg-core";
import { idColumn, instantColumn, sealedColumn } from "./columns";
import { practice } from "./practice";
import { packet } from "./packet";
import { staff } from "./staff";

/** The post room: what went out. `body` holds links and codes, so it is sealed like health data. */
export const postMessage = pgTable(
  "post_message",
  {
    id: idColumn<"Message">("id").primaryKey(),
    practiceId: idColumn<"Practice">("practice_id")
      .notNull()
      .references(() => practice.id),
    packetId: idColumn<"Packet">("packet_id").references(() => packet.id),
    /** Who is told when it bounces; null where nobody of the staff caused it. */
    senderId: idColumn<"Staff">("sender_id").references(() => staff.id),
    channel: text("channel").$type<"email" | "text">().notNull(),
    purpose: text("purpose").$type<PostPurpose>().notNull(),
    state: text("state").$type<PostState>().notNull(),
    attempts: integer("attempts").notNull().default(0),
    /** When it is tried next; null where it is not to be tried. */
    nextAt: instantColumn("next_at"),
    /**
     * While it is being sent: until when whoever sends it has it. One that is not settled by then was left by a process
     * that ended.
     */
    claimedUntil: instantColumn("claimed_until"),
    /** Why it did not go out, as the other side said it. */
    trouble: text("trouble"),
    /** When the link in it was first used. */
    openedAt: instantColumn("opened_at"),
    sealed: sealedColumn("sealed").notNull(),
    createdAt: instantColumn("created_at").notNull(),
    seq: bigint("seq", { mode: "number" }).generatedAlwaysAsIdentity(),
  },
  (t) => [
    index("post_practice").on(t.practiceId, t.seq),
    index("post_packet").on(t.packetId),
    // What did not arrive, of which there is little among much.
    index("post_trouble")
      .on(t.practiceId, t.packetId)
      .where(sql`${t.trouble} is not null`),
  ],
);

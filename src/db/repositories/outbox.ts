import { and, asc, desc, eq, lte, notInArray, sql } from "drizzle-orm";
import type { PostPurpose, PostSet, PostState } from "../../core/messages";
import type { Id, Instant, Sealer } from "../../core/shared";
import type { Db } from "../database";
import { postMessage } from "../schema";

export interface PostMessage {
  readonly id: Id<"Message">;
  readonly packetId: Id<"Packet"> | null;
  readonly channel: "email" | "text";
  readonly purpose: PostPurpose;
  readonly state: PostState;
  readonly attempts: number;
  readonly nextAt: Instant | null;
  readonly trouble: string | null;
  readonly openedAt: Instant | null;
  readonly createdAt: Instant;
  readonly to: string;
  readonly toName: string;
  readonly subject: string;
  readonly body: string;
  /** Files of the practice's that go with it. */
  readonly files?: readonly { readonly id: Id<"File">; readonly title: string }[];
}
type Letter = Pick<PostMessage, "to" | "toName" | "subject" | "body" | "files">;
type NewMessage = Pick<PostMessage, "id" | "packetId" | "channel" | "purpose" | "createdAt"> & Letter;

export const outboxRepository = (db: Db, sealer: Sealer) => {
  const place = (id: string): string => `post:${id}`;
  const read = ({
    sealed,
    seq: _seq,
    practiceId: _practice,
    ...row
  }: typeof postMessage.$inferSelect): PostMessage => ({ ...row, ...sealer.open<Letter>(place(row.id), sealed) });
  return {
    /** Queued, to be tried at once. */
    async add(practiceId: Id<"Practice">, { to, toName, subject, body, files, ...row }: NewMessage): Promise<void> {
      await db.insert(postMessage).values({
        ...row,
        state: "queued",
        nextAt: row.createdAt,
        practiceId,
        sealed: sealer.seal(place(row.id), {
          to,
          toName,
          subject,
          body,
          ...(files && files.length > 0 ? { files } : {}),
        } satisfies Letter),
      });
    },
    /** Takes the next message that is due, so that nobody else does; it stands as `sending` until its try is recorded. */
    async claim(practiceId: Id<"Practice">, now: Instant): Promise<PostMessage | undefined> {
      const due = db
        .select({ id: postMessage.id })
        .from(postMessage)
        .where(
          and(eq(postMessage.practiceId, practiceId), eq(postMessage.state, "queued"), lte(postMessage.nextAt, now)),
        )
        .orderBy(asc(postMessage.seq))
        .limit(1)
        .for("update", { skipLocked: true });
      const [row] = await db
        .update(postMessage)
        .set({ state: "sending", attempts: sql`${postMessage.attempts} + 1` })
        .where(sql`${postMessage.id} = (${due})`)
        .returning();
      return row && read(row);
    },
    async set(id: Id<"Message">, set: PostSet): Promise<void> {
      await db.update(postMessage).set(set).where(eq(postMessage.id, id));
    },
    /** Queues it again, unless it is being sent right now or has arrived. False: that is so. */
    async requeue(id: Id<"Message">, now: Instant): Promise<boolean> {
      const free = and(eq(postMessage.id, id), notInArray(postMessage.state, ["sending", "delivered"]));
      return (
        (
          await db
            .update(postMessage)
            .set({ state: "queued", nextAt: now })
            .where(free)
            .returning({ id: postMessage.id })
        ).length > 0
      );
    },
    /** Tries that were under way when the process ended last. */
    async cutOff(practiceId: Id<"Practice">, set: PostSet): Promise<number> {
      return (
        await db
          .update(postMessage)
          .set(set)
          .where(and(eq(postMessage.practiceId, practiceId), eq(postMessage.state, "sending")))
          .returning({ id: postMessage.id })
      ).length;
    },
    async markOpened(id: Id<"Message">, at: Instant): Promise<void> {
      await db
        .update(postMessage)
        .set({ openedAt: sql`coalesce(${postMessage.openedAt}, ${at})` })
        .where(eq(postMessage.id, id));
    },
    async latest(practiceId: Id<"Practice">, limit: number): Promise<PostMessage[]> {
      return (
        await db
          .select()
          .from(postMessage)
          .where(eq(postMessage.practiceId, practiceId))
          .orderBy(desc(postMessage.seq))
          .limit(limit)
      ).map(read);
    },
    /** A packet's own letters, oldest first. */
    async ofPacket(packetId: Id<"Packet">): Promise<PostMessage[]> {
      return (
        await db.select().from(postMessage).where(eq(postMessage.packetId, packetId)).orderBy(asc(postMessage.seq))
      ).map(read);
    },
    async byId(practiceId: Id<"Practice">, id: Id<"Message">): Promise<PostMessage | undefined> {
      const [row] = await db
        .select()
        .from(postMessage)
        .where(and(eq(postMessage.practiceId, practiceId), eq(postMessage.id, id)));
      return row && read(row);
    },
  };
};

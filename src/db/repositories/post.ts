import { and, desc, eq } from 'drizzle-orm';
import type { PostPurpose } from '../../core/messages';
import type { Id, Instant, Sealer } from '../../core/shared';
import type { Db } from '../database';
import { postMessage } from '../schema';

export interface PostMessage {
  readonly id: Id<'Message'>;
  readonly packetId: Id<'Packet'> | null;
  readonly channel: 'email' | 'text';
  readonly purpose: PostPurpose;
  readonly state: 'queued' | 'delivered' | 'bounced';
  readonly createdAt: Instant;
  readonly to: string;
  readonly toName: string;
  readonly subject: string;
  readonly body: string;
}
type Letter = Pick<PostMessage, 'to' | 'toName' | 'subject' | 'body'>;

export const postRepository = (db: Db, sealer: Sealer) => {
  const place = (id: string): string => `post:${id}`;
  const read = ({ sealed, seq: _seq, practiceId: _practice, ...row }: typeof postMessage.$inferSelect): PostMessage => ({ ...row, ...sealer.open<Letter>(place(row.id), sealed) });
  return {
    async add(practiceId: Id<'Practice'>, { to, toName, subject, body, ...row }: PostMessage): Promise<void> {
      await db.insert(postMessage).values({ ...row, practiceId, sealed: sealer.seal(place(row.id), { to, toName, subject, body } satisfies Letter) });
    },
    async setState(id: Id<'Message'>, state: PostMessage['state']): Promise<void> {
      await db.update(postMessage).set({ state }).where(eq(postMessage.id, id));
    },
    /** Written but not handed over: the process ended in between. */
    async queued(practiceId: Id<'Practice'>): Promise<PostMessage[]> {
      return (await db.select().from(postMessage).where(and(eq(postMessage.practiceId, practiceId), eq(postMessage.state, 'queued'))).orderBy(postMessage.seq)).map(read);
    },
    async latest(practiceId: Id<'Practice'>, limit: number): Promise<PostMessage[]> {
      return (await db.select().from(postMessage).where(eq(postMessage.practiceId, practiceId)).orderBy(desc(postMessage.seq)).limit(limit)).map(read);
    },
    async byId(practiceId: Id<'Practice'>, id: Id<'Message'>): Promise<PostMessage | undefined> {
      const [row] = await db.select().from(postMessage).where(and(eq(postMessage.practiceId, practiceId), eq(postMessage.id, id)));
      return row && read(row);
    },
  };
};

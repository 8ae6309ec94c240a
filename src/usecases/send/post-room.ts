import { object } from 'yup';
import { maskContact } from '../../core/messages';
import { ok, type Id, type Instant, type Result } from '../../core/shared';
import type { PostMessage } from '../../db/repositories';
import { idInput, notFound, nothing, query, type CommonError } from '../kit';

export interface PostLine {
  readonly id: Id<'Message'>;
  readonly at: Instant;
  readonly channel: 'email' | 'text';
  readonly purpose: PostMessage['purpose'];
  readonly state: PostMessage['state'];
  readonly toName: string;
  readonly masked: string;
}
export const postRoom = query({
  name: 'post-room', access: 'post-room.read', input: nothing,
  async run({ repo, practice }): Promise<Result<PostLine[], never>> {
    return ok((await repo.post.latest(practice.id, 200)).map((m) => ({
      id: m.id, at: m.createdAt, channel: m.channel, purpose: m.purpose, state: m.state, toName: m.toName, masked: maskContact(m.channel, m.to),
    })));
  },
});
/** One message as its recipient sees it. */
export const postMessage = query({
  name: 'post-message', access: 'post-room.read', input: object({ messageId: idInput<'Message'>() }),
  async run(ctx, { messageId }): Promise<Result<PostMessage, CommonError>> {
    const message = await ctx.repo.post.byId(ctx.practice.id, messageId);
    if (!message) return notFound;
    ctx.journal('post-room.view', `message:${messageId}`);
    return ok(message);
  },
});

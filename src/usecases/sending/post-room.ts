import { mixed, object } from "yup";
import { maskContact, postSimulations, ticketPurposes, type PostSimulation } from "../../core/messages";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { PostMessage } from "../../db/repositories";

import { sendTryOutLetter } from "./letters";
import {
  command,
  idInput,
  notFound,
  nothing,
  query,
  may,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";

export type { PostMessage };
export interface PostLine {
  readonly id: Id<"Message">;
  readonly at: Instant;
  readonly channel: "email" | "text";
  readonly purpose: PostMessage["purpose"];
  readonly state: PostMessage["state"];
  readonly attempts: number;
  readonly nextAt: Instant | null;
  readonly trouble: string | null;
  readonly openedAt: Instant | null;
  readonly toName: string;
  readonly masked: string;
}
export const postRoom = query({
  name: "post-room",
  access: "post-room.read",
  input: nothing,
  async run({ repo, practice }): Promise<Result<{ simulation: PostSimulation; lines: PostLine[] }, never>> {
    return ok({
      simulation: await repo.practices.simulation(practice.id),
      lines: (await repo.outbox.latest(practice.id, 200)).map((message) => ({
        id: message.id,
        at: message.createdAt,
        channel: message.channel,
        purpose: message.purpose,
        state: message.state,
        attempts: message.attempts,
        nextAt: message.nextAt,
        trouble: message.trouble,
        openedAt: message.openedAt,
        toName: message.toName,
        masked: maskContact(message.channel, message.to),
      })),
    });
  },
});
/** One message; `body` as its recipient sees it. */
export interface PostView extends Pick<
  PostMessage,
  "toName" | "to" | "channel" | "state" | "createdAt" | "subject" | "files" | "purpose"
> {
  /** Undefined where it left this machine, or is a code that this member of staff may not have. */
  readonly body: string | undefined;
  /** The link in it was made unreadable. */
  readonly masked: boolean;
}
const linkForm = /(\/(?:p|join)\/)[\w-]+/g;
/**
 * What the reader may see of it: letters lie open in the simulation only. What opens a client's page is not for those
 * who may not see answers, and what opens a colleague's account only for those who manage staff.
 */
function shownOf(ctx: Context<StaffActor>, message: PostMessage): Pick<PostView, "body" | "masked"> {
  if (ctx.post.leaves?.(message.channel) ?? ctx.post.outside) return { body: undefined, masked: false };
  const opensAccount = (ticketPurposes as readonly string[]).includes(message.purpose);
  if (may(ctx, opensAccount ? "staff.manage" : "answers.read")) return { body: message.body, masked: false };
  return message.purpose === "code"
    ? { body: undefined, masked: false }
    : { body: message.body.replace(linkForm, "$1…"), masked: message.body.search(linkForm) >= 0 };
}
/** One message, as far as whoever looks may see it. */
export const postMessage = query({
  name: "post-message",
  access: "post-room.read",
  input: object({ messageId: idInput<"Message">() }),
  async run(ctx, { messageId }): Promise<Result<PostView, CommonError>> {
    const message = await ctx.repo.outbox.byId(ctx.practice.id, messageId);
    if (!message) return notFound;
    const { toName, to, channel, state, createdAt, subject, files, purpose, packetId } = message;
    ctx.journal("post-room.view", packetId ? `packet:${packetId}` : `message:${messageId}`, { message: messageId });
    return ok({
      toName,
      to,
      channel,
      state,
      createdAt,
      subject,
      purpose,
      ...(files ? { files } : {}),
      ...shownOf(ctx, message),
    });
  },
});

/** Makes the Post room's own server and phone deliver, bounce, or be slow: to see what happens then. */
export const simulatePost = command({
  name: "simulate-post",
  access: "office.write",
  input: object({
    simulation: mixed<PostSimulation>()
      .oneOf([...postSimulations])
      .required(),
  }),
  async run(ctx, { simulation }): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.setSimulation(ctx.practice.id, simulation);
    ctx.journal("post-room.simulate", "practice", { simulation });
    return ok(null);
  },
});

/** A letter to oneself, to see that letters arrive. */
export const tryLetter = command({
  name: "try-letter",
  access: "office.write",
  input: nothing,
  async run(ctx): Promise<Result<{ to: string }, CommonError>> {
    await sendTryOutLetter(ctx, ctx.actor);
    ctx.journal("post-room.try-out", `staff:${ctx.actor.id}`);
    return ok({ to: ctx.actor.email });
  },
});

/**
 * Tries a message again, now: one that waits, bounced, or of which nobody knows whether it arrived. One that arrived is
 * not sent twice.
 */
export const tryAgain = command({
  name: "try-again",
  access: "packet.send",
  input: object({ messageId: idInput<"Message">() }),
  async run(ctx, { messageId }): Promise<Result<null, CommonError | { readonly reason: "arrived" }>> {
    const message = await ctx.repo.outbox.byId(ctx.practice.id, messageId);
    if (!message) return notFound;
    if (!(await ctx.repo.outbox.requeue(messageId, ctx.now))) return fail({ reason: "arrived" });
    ctx.journal("post-room.try-again", `message:${messageId}`);
    ctx.handOver();
    return ok(null);
  },
});

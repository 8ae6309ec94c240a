import { array, number, object, type InferType } from "yup";
import { nameOf } from "../../core/chart";
import { type DoorWay, type MailingState, type StandingLine } from "../../core/packet";
import { canAlarm, languagesOf, sourceLanguage, type QuestionnaireKind } from "../../core/questionnaire";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import { dayIn, type Day } from "../../core/scheduling";
import {
  command,
  idInput,
  inOrder,
  libraryRight,
  notFound,
  nothing,
  query,
  requestInput,
  type CommonError,
} from "../kit";
import { sendOne, versionsOf, wishesSchema, type SendError, type Wishes } from "./send-packet";
import { endOf, targetOf, usualExpiry } from "./target";

export interface MailingOptions {
  readonly today: Day;
  readonly expiresOn: Day;
  /** The practice's door check. */
  readonly door: DoorWay;
  readonly questionnaires: readonly {
    readonly id: Id<"Questionnaire">;
    readonly title: string;
    readonly kind: QuestionnaireKind;
    readonly languages: readonly string[];
    readonly alarms: boolean;
  }[];
  /** In these the words for somebody in danger are written. */
  readonly supportIn: readonly string[];
  readonly standing: readonly {
    readonly id: Id<"StandingPacket">;
    readonly title: string;
    readonly questionnaires: readonly StandingLine[];
    readonly leaflets: readonly Id<"Leaflet">[];
  }[];
  readonly visitTypes: readonly { readonly id: Id<"VisitType">; readonly name: string }[];
  readonly staff: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  readonly earlier: readonly {
    readonly id: Id<"Mailing">;
    readonly createdAt: Instant;
    readonly people: number;
    readonly written: number;
    readonly over: boolean;
  }[];
}
/** What could be sent to many at once, and by what they can be chosen; `mailingPeople` says who. */
export const mailingOptions = query({
  name: "mailing-options",
  access: "packet.send",
  input: nothing,
  async run(ctx): Promise<Result<MailingOptions, never>> {
    const { repo, practice, actor, now } = ctx;
    const policy = await repo.practices.door(practice.id);
    const inUse = (await repo.questionnaires.all(practice.id, actor.id)).filter(
      (q) => q.state === "active" && libraryRight(actor, q) !== "none",
    );
    return ok({
      today: dayIn(now, practice.zone),
      expiresOn: usualExpiry(ctx),
      door: policy.way,
      supportIn: Object.keys((await repo.practices.pages(practice.id)).support ?? {}),
      visitTypes: await repo.visitTypes.all(practice.id),
      staff: (await repo.staff.all(practice.id))
        .filter(({ active, role }) => active && role !== "office" && role !== "supervisor")
        .map(({ id, name }) => ({ id, name })),
      questionnaires: await inOrder(inUse, async (glance) => {
        const definition = await repo.versions.definition(glance.inUse!);
        return {
          id: glance.id,
          title: glance.title,
          kind: glance.kind,
          languages: [sourceLanguage(definition), ...languagesOf(definition)],
          alarms: canAlarm(definition),
        };
      }),
      standing: (await repo.standing.all(practice.id)).map((s) => ({
        id: s.id,
        title: s.title,
        questionnaires: s.questionnaires,
        leaflets: s.leaflets,
      })),
      earlier: (await repo.mailings.latest(practice.id, 10)).map((m) => ({
        id: m.id,
        createdAt: m.createdAt,
        people: m.people,
        written: m.written,
        over: m.finishedAt !== null || m.stoppedAt !== null,
      })),
    });
  },
});

const mostPeople = 20_000;
const startSchema = wishesSchema.concat(
  object({
    requestId: requestInput,
    clientIds: array(idInput<"Client">())
      .min(1, "Choose at least one person.")
      .max(mostPeople, `At most ${mostPeople} people at once.`)
      .required(),
  }),
);
/** Takes down whom to write to, in order; `writeNext` does the writing. The request's id becomes the mailing's. */
export const startMailing = command({
  name: "start-mailing",
  access: "packet.send",
  input: startSchema,
  async run(
    ctx,
    { requestId, clientIds, ...wishes }: InferType<typeof startSchema>,
  ): Promise<Result<{ id: Id<"Mailing"> }, SendError>> {
    const { repo, practice, now, random, actor } = ctx;
    const id = requestId as Id<"Mailing">;
    if (await repo.mailings.byId(practice.id, id)) {
      ctx.journal("mailing.start-repeated", `mailing:${id}`);
      return ok({ id });
    }
    // What cannot be sent to anybody is said now, not five hundred times later.
    const asked = await versionsOf(ctx, wishes.questionnaireIds);
    if (!asked.ok) return asked;
    const expiry = endOf(ctx, wishes.expiresOn ?? usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    const ids = [...new Set(clientIds)];
    if (!(await repo.clients.hasAll(practice.id, ids))) return notFound;
    const fresh = await repo.mailings.add(
      { id, practiceId: practice.id, staffId: actor.id, createdAt: now, stoppedAt: null, finishedAt: null },
      wishes,
      ids.map((clientId, position) => ({ id: random.id<"MailingPerson">(), mailingId: id, clientId, position })),
    );
    ctx.journal(fresh ? "mailing.start" : "mailing.start-repeated", `mailing:${id}`, { people: ids.length });
    return ok({ id });
  },
});

/**
 * Writes to the next person of a mailing, in one transaction with the mark that they were written to: where the process
 * ends in between, neither happened. Says whether somebody is left.
 */
export const writeNext = command({
  name: "write-next",
  access: "packet.send",
  input: object({ mailingId: idInput<"Mailing">() }),
  async run(ctx, { mailingId }): Promise<Result<{ more: boolean }, CommonError | { readonly reason: "held" }>> {
    const { repo, practice, now } = ctx;
    const mailing = await repo.mailings.byId(practice.id, mailingId);
    if (!mailing) return notFound;
    const isOver = mailing.stoppedAt !== null || mailing.finishedAt !== null;
    const next = isOver ? undefined : await repo.mailings.next(mailingId);
    if (!next) {
      // Whom another process is writing to just now is still waiting if that one ends.
      if (!isOver && (await repo.mailings.isWaiting(mailingId))) return fail({ reason: "held" });
      if (!mailing.stoppedAt && !mailing.finishedAt) await repo.mailings.end(mailingId, { finishedAt: now });
      ctx.journal("mailing.end", `mailing:${mailingId}`);
      return ok({ more: false });
    }
    const target = await targetOf(ctx, { clientId: next.clientId });
    const sent = target.ok
      ? await sendOne(ctx, next.id, target.value, await repo.mailings.wishes<Wishes>(mailingId))
      : target;
    const stateOf = (): MailingState => {
      if (sent.ok) return "sent";
      if (sent.error.reason === "no-contact") return "unreachable";
      return "failed";
    };
    const state: MailingState = stateOf();
    await repo.mailings.mark(next.id, state, sent.ok ? sent.value.packetId : null);
    if (!sent.ok) ctx.journal("mailing.left", `mailing:${mailingId}`, { person: next.id, why: sent.error.reason });
    return ok({ more: true });
  },
});

export interface MailingLine {
  readonly name: string;
  readonly state: MailingState;
  readonly packetId: Id<"Packet"> | null;
}
export interface MailingView {
  readonly id: Id<"Mailing">;
  readonly createdAt: Instant;
  readonly by: string;
  readonly titles: readonly string[];
  readonly over: boolean;
  readonly stopped: boolean;
  /** How many stand in which state. */
  readonly tally: Readonly<Partial<Record<MailingState, number>>>;
  /** Whom no letter went to, the first of them. */
  readonly odd: readonly MailingLine[];
  /** Who was written to, a page of them. */
  readonly sent: readonly MailingLine[];
  readonly next: number | undefined;
}
const mostOnPage = 40;
export const mailingView = query({
  name: "mailing-view",
  access: "packet.send",
  input: object({ mailingId: idInput<"Mailing">(), from: number().integer().min(0).default(0) }),
  async run({ repo, practice, actor }, { mailingId, from }): Promise<Result<MailingView, CommonError>> {
    const mailing = await repo.mailings.byId(practice.id, mailingId);
    if (!mailing) return notFound;
    const wishes = await repo.mailings.wishes<Wishes>(mailingId);
    const odd = await repo.mailings.people(mailingId, ["unreachable", "failed", "left-out"], 0, mostOnPage);
    const sent = await repo.mailings.people(mailingId, ["sent"], from, mostOnPage + 1);
    const clients = await repo.clients.byIds(
      practice.id,
      [...odd, ...sent].map((p) => p.clientId),
    );
    const lineOf = ({ clientId, state, packetId }: (typeof odd)[number]): MailingLine => {
      const client = clients.get(clientId);
      return { name: client ? nameOf(client) : "", state, packetId };
    };
    const titles = (await repo.questionnaires.all(practice.id, actor.id))
      .filter((q) => wishes.questionnaireIds.includes(q.id))
      .map((q) => q.title);
    return ok({
      id: mailingId,
      createdAt: mailing.createdAt,
      by: (await repo.staff.byId(mailing.staffId))?.name ?? "",
      titles,
      over: mailing.finishedAt !== null || mailing.stoppedAt !== null,
      stopped: mailing.stoppedAt !== null,
      tally: await repo.mailings.tally(mailingId),
      odd: odd.map(lineOf),
      sent: sent.slice(0, mostOnPage).map(lineOf),
      next: sent.length > mostOnPage ? from + mostOnPage : undefined,
    });
  },
});
/** Who was not written to yet is left out. */
export const stopMailing = command({
  name: "stop-mailing",
  access: "packet.send",
  input: object({ mailingId: idInput<"Mailing">() }),
  async run(ctx, { mailingId }): Promise<Result<null, CommonError | { readonly reason: "closed" }>> {
    const mailing = await ctx.repo.mailings.byId(ctx.practice.id, mailingId, true);
    if (!mailing) return notFound;
    if (mailing.finishedAt) return fail({ reason: "closed" });
    await ctx.repo.mailings.end(mailingId, { stoppedAt: ctx.now });
    await ctx.repo.mailings.leaveOut(mailingId);
    ctx.journal("mailing.stop", `mailing:${mailingId}`);
    return ok(null);
  },
});

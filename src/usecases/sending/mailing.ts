import { array, object, type InferType } from "yup";
import { nameOf } from "../../core/chart";
import { doorFor, type Door, type DoorWay, type MailingState, type StandingLine } from "../../core/packet";
import { canAlarm, languagesOf, sourceLanguage, type QuestionnaireKind } from "../../core/questionnaire";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import { dayIn, type Day, type PersonFacts } from "../../core/scheduling";
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
import { doorPerson, recipientFor } from "./recipient";
import { sendOne, versionsOf, wishesSchema, type SendError, type Wishes } from "./send-packet";
import { endOf, targetOf, usualExpiry } from "./target";

export interface MailingPerson extends PersonFacts {
  readonly name: string;
  readonly language: string;
  readonly channel: "email" | "text" | undefined;
  readonly masked: string | undefined;
  /** How they will be let in, by the practice's door check. */
  readonly door: Door["way"];
  /** Who gets it, when that is somebody else. */
  readonly through: string | undefined;
  /** Questionnaires they already have in front of them, not returned yet. */
  readonly open: readonly Id<"Questionnaire">[];
}
export interface MailingOptions {
  readonly today: Day;
  readonly expiresOn: Day;
  /** The practice's door check. */
  readonly door: DoorWay;
  readonly people: readonly MailingPerson[];
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
/** Everybody who could be written to at once, what is known for choosing among them, and what could be sent. */
export const mailingOptions = query({
  name: "mailing-options",
  access: "packet.send",
  input: nothing,
  async run(ctx): Promise<Result<MailingOptions, never>> {
    const { repo, practice, actor, now } = ctx;
    const facts = await repo.mailings.facts(practice.id);
    const policy = await repo.practices.door(practice.id);
    const openNow = await repo.packets.openQuestionnaires(practice.id, now);
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
        .filter((s) => facts.visits.some((v) => v.staffId === s.id))
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
      people: await inOrder(await repo.clients.all(practice.id), async (client) => {
        const recipient = await recipientFor(ctx, client);
        const { contact, relationId, name } = recipient;
        return {
          door: doorFor(policy, null, await doorPerson(ctx, policy, client, recipient)).way,
          id: client.id,
          name: nameOf(client),
          language: client.language,
          channel: contact?.channel,
          masked: contact?.masked,
          through: relationId ? name : undefined,
          visits: facts.visits
            .filter((v) => v.clientId === client.id)
            .map(({ visitTypeId, staffId }) => ({ visitTypeId, staffId })),
          returned: Object.fromEntries(
            facts.returns
              .filter((r) => r.clientId === client.id)
              .map((r) => [r.questionnaireId, dayIn(r.last, practice.zone)]),
          ),
          open: openNow.filter((o) => o.clientId === client.id).map((o) => o.questionnaireId),
        };
      }),
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

const mostPeople = 2000;
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
    const known = new Set<string>((await repo.clients.all(practice.id)).map((c) => c.id));
    const ids = [...new Set(clientIds)];
    if (!ids.every((c) => known.has(c))) return notFound;
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

export interface MailingView {
  readonly id: Id<"Mailing">;
  readonly createdAt: Instant;
  readonly by: string;
  readonly titles: readonly string[];
  readonly over: boolean;
  readonly stopped: boolean;
  readonly people: readonly {
    readonly name: string;
    readonly state: MailingState;
    readonly packetId: Id<"Packet"> | null;
  }[];
}
export const mailingView = query({
  name: "mailing-view",
  access: "packet.send",
  input: object({ mailingId: idInput<"Mailing">() }),
  async run({ repo, practice, actor }, { mailingId }): Promise<Result<MailingView, CommonError>> {
    const mailing = await repo.mailings.byId(practice.id, mailingId);
    if (!mailing) return notFound;
    const wishes = await repo.mailings.wishes<Wishes>(mailingId);
    const names = new Map((await repo.clients.all(practice.id)).map((c) => [c.id as string, nameOf(c)]));
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
      people: (await repo.mailings.people(mailingId)).map((p) => ({
        name: names.get(p.clientId) ?? "",
        state: p.state,
        packetId: p.packetId,
      })),
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

import { array, mixed, number, object, string } from "yup";
import { nameOf } from "../../core/chart";
import {
  after,
  changeName,
  isOpen,
  isOpenAgain,
  packetStates,
  stateAt,
  supportFor,
  type Support,
  type KeptAnswer,
  type CopyRole,
  type PacketState,
  type SentBack,
  type SentBackLine,
} from "../../core/packet";
import {
  answerText,
  answerWordsFor,
  applyChange,
  checkAnswers,
  forClient,
  noAnswers,
  prune,
  readChange,
  shownQuestions,
  translate,
  twinsOf,
  type Twin,
  type AnswerProblem,
  type Answers,
  type Questionnaire,
} from "../../core/questionnaire";
import { gistOf } from "../../core/scoring";
import { placesBeforeReturn, type FillerKind, type PlaceStanding } from "../../core/signing";
import { fail, isBefore, isLanguageTag, ok, type Id, type Instant, type Result, mainLanguage } from "../../core/shared";
import { addDays, boundsOf, dayIn, type Day } from "../../core/scheduling";
import type { OwnPaper } from "../../adapters/own-paper";
import type { Packet, Part, SavedAnswers } from "../../db/repositories";
import {
  command,
  idInput,
  inOrder,
  notFound,
  nothing,
  query,
  statement,
  seenBy,
  type ClientActor,
  type CommonError,
  type Context,
  letterhead,
  logoPath,
} from "../kit";

import { letterLocale, sendAlertLetter } from "../sending/letters";
import { languageOf } from "../sending/recipient";
import { fillersOf, kindAt, peopleOf } from "../sending/people";
import { goOnSigning } from "../signing/go-on";
import { ageFor, signedPart } from "../signing/standing";
import { fileIds, ownFiles } from "./files";
import { recallOf } from "../measures/schedule";

export interface FillPart {
  readonly id: Id<"Part">;
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
  /** When each place was signed, where nothing changed since. */
  readonly signed: Readonly<Record<string, Instant>>;
  /** Places whose signer asked for paper. */
  readonly onPaper: readonly string[];
  /** Keys of answers that came from the chart and wait to be said right. */
  readonly prefilled: readonly string[];
  /** The revision of each answer, and whose link it was saved with, by `changeName`. */
  readonly kept: Readonly<Record<string, Pick<KeptAnswer, "revision" | "by">>>;
}
export interface FillView {
  readonly packetId: Id<"Packet">;
  readonly state: PacketState;
  /** It asks for nothing: what it opens is a take-home. */
  readonly isTakeHome: boolean;
  readonly practiceName: string;
  /** Where the practice's own picture is. */
  readonly logo: string | null;
  /** Whom to call, where something alarms; once it came back, only where it did. */
  readonly support: Support | undefined;
  /** Who fills in, and for whom when those differ. */
  readonly person: string;
  readonly onBehalfOf: string | undefined;
  readonly zone: string;
  readonly locale: string;
  /** The client's, as a language tag. */
  readonly language: string;
  readonly parts: readonly FillPart[];
  /** A line from the practitioner, and the day they hope to have it back by. */
  readonly personalLine: string | undefined;
  readonly dueOn: string | undefined;
  /** Only these answers are open, each with the reason. */
  readonly sentBack: readonly SentBackLine[] | undefined;
  /** Once it came back: what and when, and the day from which its link asks again, where it does. */
  readonly returned:
    { readonly at: Instant; readonly titles: readonly string[]; readonly nextOn: Day | undefined } | undefined;
  /** Whether this person fills it in or only reads. */
  readonly role: CopyRole;
  /** Of the client, in whole years; some places are signed at some ages only. */
  readonly age: number | undefined;
  /** What this person is to the client, and what all who fill it in are: places to sign are for some of them. */
  readonly signsAs: FillerKind;
  readonly fillers: readonly FillerKind[];
  /** Everybody with a link to it, this person included, by link. */
  readonly people: readonly { readonly link: Id<"Link">; readonly name: string; readonly own: boolean }[];
  /** Several people have one copy, so that what the others write is looked for. */
  readonly shared: boolean;
  /** Where one answer is given to several questions: by `part key`, the others. */
  readonly twins: Readonly<Record<string, readonly Twin[]>>;
  /** What came along to read. */
  readonly leaflets: readonly { readonly id: Id<"Leaflet">; readonly title: string }[];
  /** Measures ask one question a page. */
  readonly oneByOne: boolean;
  /** What is said once it came back, and where they may go on to. */
  readonly finish: { readonly text: string | undefined; readonly address: string };
  /** The same link asks again another day. */
  readonly repeats: boolean;
  /** The questions are about the time since then, whatever they say. */
  readonly recallSince: Instant | undefined;
  /** Encrypts what this browser holds of unsaved answers, so that a passed door check alone opens it. */
  readonly keepKey: string;
  /** When this device is let in no longer, unless it asks to stay; none on a device of the practice. */
  readonly passUntil: Instant | undefined;
  /** Something was answered or on file before that is not shown here: what comes back is what is answered here. */
  readonly anew: boolean;
  /** On a device of the practice, which is to be given back. */
  readonly handedOver: boolean;
  /** What it is kept as: each person's own, through every link they get. */
  readonly keepAs: string;
}

async function openPacket(
  ctx: Context<ClientActor>,
  forUpdate: boolean,
): Promise<{ packet: Packet; state: PacketState } | undefined> {
  const packet = await ctx.repo.packets.byId(ctx.practice.id, ctx.actor.packetId, forUpdate);
  return packet && { packet, state: stateAt(packet.state, packet.expiresAt, ctx.now) };
}

/** A signature stands for exactly the words and the answers it was put under. */
async function signedNow(
  ctx: Context,
  part: Part,
  questionnaire: Questionnaire,
  answers: Answers,
  age: number | undefined,
): Promise<{ at: Pick<FillPart, "signed" | "onPaper">; standing: readonly PlaceStanding[] }> {
  const { valid, standing } = await signedPart(ctx, part, questionnaire, answers, age);
  const places = await ctx.repo.signers.placesOf([part.id]);
  return {
    standing,
    at: {
      signed: Object.fromEntries(valid.map((s) => [s.place, s.at])),
      onPaper: places.flatMap((p) => (p.endedAt === null && p.paperAt !== null ? [p.place] : [])),
    },
  };
}

async function returnedOf(
  { repo, practice }: Context,
  packet: Packet,
  language: string,
): Promise<FillView["returned"]> {
  const { returnedAt, state } = packet;
  if (returnedAt === null || (state !== "returned" && state !== "settled")) return undefined;
  const next = addDays(dayIn(returnedAt, practice.zone), 1);
  return {
    at: returnedAt,
    titles: await inOrder(
      await repo.packets.parts(packet.id),
      async (part) => translate(await repo.versions.definition(part.versionId), language).title,
    ),
    nextOn: packet.repeats && isBefore(boundsOf(next, practice.zone)[0], packet.expiresAt) ? next : undefined,
  };
}

/** Everything the client's page needs. After returning, the packet's state and nothing of the answers. */
export const fillView = query({
  name: "fill-view",
  access: "client",
  input: nothing,
  async run(ctx): Promise<Result<FillView, CommonError>> {
    const { repo, practice } = ctx;
    const found = await openPacket(ctx, false);
    const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
    if (!found || !client) return notFound;
    const language = languageOf(client, found.packet, await repo.links.byId(ctx.actor.linkId));
    const people = await peopleOf(ctx, found.packet, client);
    const own = people.find((p) => p.links.includes(ctx.actor.linkId));
    const parts = isOpen(found.state) ? await repo.packets.parts(found.packet.id) : [];
    const asked = await inOrder(parts, async ({ id, versionId }) => ({
      id,
      questionnaire: translate(await repo.versions.definition(versionId), language),
    }));
    const pages = await repo.practices.pages(practice.id);
    const age = ageFor(ctx, client, found.packet);
    return ok({
      packetId: found.packet.id,
      age,
      state: found.state,
      isTakeHome: found.packet.isTakeHome,
      practiceName: practice.name,
      logo: logoPath(practice),
      support:
        isOpen(found.state) || found.packet.alerts > 0
          ? supportFor(pages.support, language, practice.locale)
          : undefined,
      person: own?.name ?? nameOf(client),
      onBehalfOf: own?.relationId ? nameOf(client) : undefined,
      returned: await returnedOf(ctx, found.packet, language),
      role: ctx.actor.role === "fills" ? "fills" : "reads",
      signsAs: kindAt(people, ctx.actor.linkId),
      fillers: fillersOf(people),
      people: people.flatMap((p) => p.links.map((link) => ({ link, name: p.name, own: p === own }))),
      shared: people.filter((p) => p.live).length > 1,
      keepAs: `${found.packet.id} ${own?.relationId ?? "client"}`,
      keepKey: ctx.sealer.keyedDigest("keep", `${found.packet.id} ${own?.relationId ?? ""}`),
      twins: found.state === "sent-back" ? {} : Object.fromEntries(twinsOf(asked)),
      leaflets: (await repo.leaflets.all(practice.id))
        .filter((l) => found.packet.leaflets.includes(l.id))
        .map(({ id, title }) => ({ id, title })),
      oneByOne: pages.oneByOne === true,
      finish: { text: pages.finish[mainLanguage(language)], address: pages.finishAddress },
      repeats: found.packet.repeats,
      recallSince: await recallOf(ctx, found.packet),
      passUntil:
        ctx.actor.handedBy === undefined
          ? (await repo.passes.byDigest(ctx.actor.passDigest, ctx.now))?.expiresAt
          : undefined,
      anew: ctx.actor.unseen === true && (await repo.answers.holdsOthers(found.packet.id, ctx.actor.passDigest)),
      handedOver: ctx.actor.handedBy !== undefined,
      zone: client.zone ?? practice.zone,
      locale: practice.locale,
      language,
      personalLine: ctx.actor.unseen ? undefined : repo.packets.unseal<string>(found.packet, "personalLine"),
      dueOn: found.packet.dueOn ?? undefined,
      sentBack:
        found.state === "sent-back" ? repo.packets.unseal<SentBack>(found.packet, "sentBack")?.lines : undefined,
      parts: await inOrder(parts, async (part): Promise<FillPart> => {
        const { questionnaire } = asked.find((a) => a.id === part.id)!;
        const kept = await repo.answers.kept(part.id, seenBy(ctx.actor));
        const answers = kept.reduce<Answers>((all, k) => applyChange(all, k.change), noAnswers);
        return {
          id: part.id,
          questionnaire: forClient(questionnaire),
          answers,
          kept: Object.fromEntries(kept.map(({ change, revision, by }) => [changeName(change), { revision, by }])),
          ...(await signedNow(ctx, part, await repo.versions.definition(part.versionId), answers, age)).at,
          prefilled: part.prefill && !ctx.actor.unseen ? await repo.answers.prefilled(part.id) : [],
        };
      }),
    });
  },
});

/** What was saved since this page last looked: nothing where nothing was, else every answer as it is now. */
export const changesSince = query({
  name: "changes-since",
  access: "client",
  input: object({ since: number().integer().min(-1).required() }),
  async run(
    ctx,
    { since },
  ): Promise<
    Result<
      {
        version: number;
        state: PacketState;
        parts: readonly { readonly id: Id<"Part">; readonly kept: readonly KeptAnswer[] }[];
      },
      CommonError
    >
  > {
    const { repo } = ctx;
    const found = await openPacket(ctx, false);
    if (!found) return notFound;
    const now = await repo.answers.version(found.packet.id);
    const parts = now === since || !isOpen(found.state) ? [] : await repo.packets.parts(found.packet.id);
    return ok({
      version: now,
      state: found.state,
      parts: await inOrder(parts, async ({ id }) => ({ id, kept: await repo.answers.kept(id, seenBy(ctx.actor)) })),
    });
  },
});

export type SaveError =
  | CommonError
  | { readonly reason: "closed"; readonly state: PacketState }
  | { readonly reason: "refused"; readonly key: string; readonly why: string };

const moves = Object.fromEntries(
  packetStates.flatMap((s) => (isOpen(s) && s !== "sent-back" && after(s, "answer") ? [[s, after(s, "answer")!]] : [])),
);
/** A packet that was sent back is asked first which answers are open, and so takes one query more. */
const movesSentBack = { "sent-back": "sent-back" } as const;

/** The revision a change was made on; without one it is not asked whether another device was there first. */
const baseOf = (change: unknown): number | undefined => {
  const base = (change as { readonly base?: unknown }).base;
  return typeof base === "number" && Number.isSafeInteger(base) && base >= 0 ? base : undefined;
};

/**
 * Saves what was just typed: all of it or none, but for what another device changed since this page last saw it, which
 * comes back. Half-typed answers are kept as they are; only what could not be an answer to that question at all is
 * refused.
 */
export const saveAnswers = statement({
  name: "save-answers",
  access: "client.fill",
  input: object({
    partId: idInput<"Part">(),
    changes: array(mixed<NonNullable<unknown>>().required()).min(1).max(200).required(),
  }),
  async run(ctx, { partId, changes }): Promise<Result<{ savedAt: Instant } & SavedAnswers, SaveError>> {
    const { repo, now, actor, practice } = ctx;
    const versionId = await repo.packets.versionOfPart(actor.packetId, partId);
    if (!versionId) return notFound;
    const questionnaire = await repo.versions.definition(versionId);
    const read = changes.map((c) => readChange(questionnaire, c));
    const refused = read.find((r) => !r.ok);
    // One row a question, the last one wins: a database cannot write the same row twice in one statement.
    const byKey = new Map(
      read.flatMap((r, i) =>
        r.ok
          ? [[changeName(r.value), { change: r.value, base: actor.unseen ? undefined : baseOf(changes[i]) }] as const]
          : [],
      ),
    );
    const line = ctx.line("answer.save", `packet:${actor.packetId}`, { answers: byKey.size });
    const owned = await ownFiles(
      ctx,
      partId,
      [...byKey.values()].flatMap(({ change }) => (change.kind === "values" ? change.values : [])),
    );
    const save = {
      practiceId: practice.id,
      packetId: actor.packetId,
      partId,
      changes: [...byKey.values()],
      at: now,
      line,
      passDigest: actor.passDigest,
    };
    const saved = !refused && owned && (await repo.answers.save({ ...save, moves }));
    if (saved) return ok({ savedAt: now, ...saved });
    const found = await openPacket(ctx, false);
    if (!found) return notFound;
    if (!refused && owned && found.state === "sent-back") {
      const sentBack = repo.packets.unseal<SentBack>(found.packet, "sentBack");
      if (!sentBack || !save.changes.every(({ change }) => isOpenAgain(sentBack, partId, change)))
        return fail({ reason: "invalid", fields: { changes: "These answers are not open." } });
      const late = await repo.answers.save({ ...save, moves: movesSentBack });
      if (late) return ok({ savedAt: now, ...late });
    }
    if (!isOpen(found.state)) return fail({ reason: "closed", state: found.state });
    if (!owned) return fail({ reason: "invalid", fields: { changes: "One of these files is not here." } });
    if (!refused) return fail({ reason: "not-allowed" });
    return !refused.ok && refused.error.reason === "problem"
      ? fail({ reason: "refused", key: refused.error.problem.key, why: refused.error.problem.reason })
      : fail({ reason: "invalid", fields: { changes: "These are not answers to this questionnaire." } });
  },
});

export interface PartProblems {
  readonly partId: Id<"Part">;
  readonly problems: readonly AnswerProblem[];
  readonly unsigned: boolean;
}
export type ReturnError =
  | CommonError
  | { readonly reason: "closed"; readonly state: PacketState }
  | { readonly reason: "incomplete"; readonly parts: readonly PartProblems[] };

export interface Returned {
  readonly returnedAt: Instant;
  /** Something was answered that alarms: whom to call stands on the page that says thank you. */
  readonly alarming: boolean;
}
/**
 * Returns the packet: everything the browser checked is checked again. Returning twice, or again after a lost reply,
 * gives the first return's moment. Answers to questions that ended up hidden are dropped, and files that no answer
 * names. The pass of a device that was handed over ends with it.
 */
export const returnPacket = command({
  name: "return-packet",
  access: "client.fill",
  input: object({ comment: string().trim().max(2000).default("") }),
  async run(ctx, { comment }): Promise<Result<Returned, ReturnError>> {
    const { repo, now, actor } = ctx;
    const found = await openPacket(ctx, true);
    if (!found) return notFound;
    const { packet, state } = found;
    if (packet.returnedAt && (state === "returned" || state === "settled")) {
      ctx.journal("packet.return-repeated", `packet:${packet.id}`);
      return ok({ returnedAt: packet.returnedAt, alarming: packet.alerts > 0 });
    }
    if (!isOpen(state)) return fail({ reason: "closed", state });
    const client = await repo.clients.byId(ctx.practice.id, packet.clientId);
    if (!client) return notFound;
    const fillers = fillersOf(await peopleOf(ctx, packet, client));
    const parts = await inOrder(await repo.packets.parts(packet.id), async (part) => {
      const questionnaire = await repo.versions.definition(part.versionId);
      // Where nothing that was there before is shown, what comes back is what was typed here: they began anew.
      const there = await repo.answers.ofPart(part.id, seenBy(actor));
      const answers = prune(questionnaire, there);
      const { standing, at } = await signedNow(ctx, part, questionnaire, answers, ageFor(ctx, client, packet));
      return {
        part,
        questionnaire,
        answers,
        there,
        problems: checkAnswers(questionnaire, answers),
        unsigned: placesBeforeReturn(standing, fillers).some(
          (p) => p.required && !standing.some((s) => s.place === p.place && s.signed) && !at.onPaper.includes(p.place),
        ),
      };
    });
    const wrong = parts.filter((p) => p.problems.length > 0 || p.unsigned);
    if (wrong.length > 0)
      return fail({
        reason: "incomplete",
        parts: wrong.map((p) => ({ partId: p.part.id, problems: p.problems, unsigned: p.unsigned })),
      });
    const gists = parts.map(({ part, questionnaire, answers }) => ({ part, gist: gistOf(questionnaire, answers) }));
    for (const { part, gist } of gists) await repo.packets.keepGist(part.id, gist);
    for (const part of parts) {
      await repo.answers.keepOnly(part.part.id, part.answers, part.there);
      // A file that was taken back, or whose question ended up hidden, was not given; what an earlier return gave may
      // stand in a note by now.
      const dropped = await repo.files.keepOnly(
        part.part.id,
        fileIds(Object.values(part.answers.values).flat()),
        packet.returnedAt,
      );
      if (dropped > 0) ctx.journal("file.drop", `packet:${packet.id}`, { files: dropped });
    }
    const alerts = gists.reduce((n, { gist }) => n + gist.alerts.length, 0);
    await repo.packets.update(packet.id, {
      state: "returned",
      returnedAt: now,
      returnedFrom: actor.address,
      alerts,
      ...(comment === "" ? {} : { comment: repo.packets.seal(packet, "comment", comment) }),
    });
    if (actor.handedBy !== undefined) await repo.passes.end(actor.passDigest, actor.linkId, now);
    // One that is open already stays, also where what alarmed is answered otherwise now: it was said once.
    if (alerts > 0 && !(await repo.alerts.isOpen(packet.id)))
      await repo.alerts.raise({
        id: ctx.random.id(),
        practiceId: ctx.practice.id,
        clientId: packet.clientId,
        packetId: packet.id,
        raisedAt: now,
      });
    if (alerts > 0) await sendAlertLetter(ctx, packet.id, await repo.staff.byId(packet.staffId));
    ctx.journal("packet.return", `packet:${packet.id}`, { parts: parts.length });
    await goOnSigning(ctx, { ...packet, state: "returned", returnedAt: now }, client);
    ctx.tell("returns");
    return ok({ returnedAt: now, alarming: alerts > 0 });
  },
});

/** The language this person's page speaks from here on. */
export const chooseLanguage = command({
  name: "choose-language",
  access: "client",
  input: object({
    language: string()
      .max(35)
      .required()
      .test("language", "Choose a language.", (tag) => isLanguageTag(tag)),
  }),
  async run(ctx, { language }): Promise<Result<null, CommonError>> {
    await ctx.repo.links.update(ctx.actor.linkId, { language });
    ctx.journal("page.language", `packet:${ctx.actor.packetId}`, { language });
    return ok(null);
  },
});

/** What this person wrote so far, for them to keep. */
export const clientPaper = command({
  name: "client-paper",
  access: "client",
  input: nothing,
  async run(ctx): Promise<Result<OwnPaper, CommonError>> {
    const { repo, practice, actor } = ctx;
    const found = await openPacket(ctx, false);
    const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
    if (!found || !client || found.state === "withdrawn" || found.state === "lapsed") return notFound;
    // A device of the practice lies there for the next one by then; and through some passes nothing is shown that was
    // there before.
    if ((actor.unseen || actor.handedBy !== undefined) && !isOpen(found.state)) return notFound;
    const language = languageOf(client, found.packet, await repo.links.byId(actor.linkId));
    const words = { ...answerWordsFor(language), locale: letterLocale(ctx, language) };
    ctx.journal("page.download", `packet:${found.packet.id}`);
    return ok({
      ...(await letterhead(ctx)),
      language,
      person: nameOf(client),
      at: found.packet.returnedAt ?? ctx.now,
      zone: client.zone ?? practice.zone,
      locale: words.locale,
      parts: await inOrder(await repo.packets.parts(found.packet.id), async (part) => {
        const questionnaire = translate(await repo.versions.definition(part.versionId), language);
        const answers = await repo.answers.ofPart(part.id, seenBy(actor));
        return {
          title: questionnaire.title,
          lines: shownQuestions(questionnaire, answers)
            .filter((q) => !q.item.readOnly)
            .map((q) => ({
              question: q.item.text,
              answer: (answers.values[q.key] ?? []).map((v) => answerText(q.item, v, words)).join(", "),
            })),
        };
      }),
    });
  },
});

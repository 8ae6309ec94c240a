import { boolean, mixed, object, string } from "yup";
import { nameOf } from "../../core/chart";
import { passwordSchema } from "../../core/forms";
import { quotable, type QuotedAnswer } from "../../core/notes";
import { plainWords, translate } from "../../core/questionnaire";
import { isDrawnPath, textDigest, type Evidence, type SignatureMark } from "../../core/signing";
import {
  fail,
  instantMs,
  isBefore,
  laterBy,
  mainLanguage,
  ok,
  type Id,
  type Instant,
  type Result,
} from "../../core/shared";
import type { Client, Packet, SignerPlace } from "../../db/repositories";
import { command, idInput, nothing, query, type CommonError, type Context, type StaffActor } from "../kit";
import { provesAnew } from "../identity/proves-anew";
import { goOnSigning, signingParts, type SigningPart } from "./go-on";
import { pictureIn, putSignature, signsAs, type MarkProblem } from "./put-signature";
import { readIn } from "./standing";

const releasedForMs = 10 * 60_000;

/** One signature that waits for whoever looks. */
export interface ToSign {
  readonly packetId: Id<"Packet">;
  readonly partId: Id<"Part">;
  readonly place: string;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly title: string;
  /** Display texts, and what is agreed to by signing. */
  readonly texts: readonly string[];
  readonly intent: string;
  /** There is a PDF that is signed with it. */
  readonly sheet: boolean;
  readonly lines: readonly QuotedAnswer[];
  readonly digest: string;
  /** Who signed before. */
  readonly before: readonly { readonly name: string; readonly at: Instant }[];
  readonly returnedAt: Instant;
}
export interface ForYouToSign {
  readonly waiting: readonly ToSign[];
  /** The stored signature; undefined where there is none. */
  readonly mark: SignatureMark | undefined;
  /** Until when it may be used without proving anew who one is. */
  readonly releasedUntil: Instant | undefined;
  /** A code from the authenticator does as well. */
  readonly hasCode: boolean;
}

/** What waits for this member of staff's signature, the longest waiting first. */
export const forYouToSign = query({
  name: "for-you-to-sign",
  access: "answers.read",
  input: nothing,
  async run(ctx): Promise<Result<ForYouToSign, CommonError>> {
    const { repo, practice, actor, now } = ctx;
    const waiting: ToSign[] = [];
    const language = mainLanguage(practice.locale);
    for (const packetId of await repo.signers.packetsOfStaff(practice.id, actor.id)) {
      const { packet, client, turns } = (await ownTurns(ctx, packetId)) ?? {};
      if (!packet || !client) continue;
      for (const {
        one,
        place: { place },
      } of turns ?? []) {
        const read = readIn(one.questionnaire, one.answers, place, language);
        const shown = translate(one.questionnaire, language);
        waiting.push({
          packetId,
          partId: one.part.id,
          place,
          clientId: client.id,
          clientName: nameOf(client),
          title: shown.title,
          texts: read.texts.flatMap(({ linkId, text }) => (isText(one, linkId) ? [text] : [])),
          intent: read.intent,
          sheet: one.questionnaire.sheet !== undefined,
          lines: quotable(
            { partId: one.part.id, questionnaire: shown, answers: one.answers },
            { ...plainWords, locale: practice.locale },
          ),
          digest: textDigest(read),
          before: one.valid.map((s) => ({ name: s.statement.signer, at: s.at })),
          returnedAt: packet.returnedAt ?? packet.createdAt,
        });
      }
    }
    const staff = await repo.staff.byId(actor.id);
    const until = await repo.sessions.releasedUntil(actor.sessionDigest);
    return ok({
      waiting: waiting.sort((a, b) => instantMs(a.returnedAt) - instantMs(b.returnedAt)),
      mark: await repo.staff.mark(actor.id),
      releasedUntil: until && isBefore(now, until) ? until : undefined,
      hasCode: staff?.totpOn === true,
    });
  },
});
const isText = ({ questionnaire }: SigningPart, linkId: string): boolean => {
  const find = (items: SigningPart["questionnaire"]["items"]): boolean =>
    items.some((i) =>
      i.linkId === linkId ? i.type === "display" && !i.signature : i.type !== "display" && find(i.items),
    );
  return find(questionnaire.items);
};
interface OwnTurns {
  readonly packet: Packet;
  readonly client: Client;
  readonly turns: readonly { readonly one: SigningPart; readonly place: SignerPlace }[];
}
/** The places of a packet at which it is this member of staff's turn. */
async function ownTurns(
  ctx: Context<StaffActor>,
  packetId: Id<"Packet">,
  forUpdate = false,
): Promise<OwnTurns | undefined> {
  const { repo, practice, actor } = ctx;
  const packet = await repo.packets.byId(practice.id, packetId, forUpdate);
  const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
  if (!packet || !client) return undefined;
  const own = (await repo.signers.ofPacket(packetId)).filter((s) => s.staffId === actor.id).map((s) => s.id);
  const turns = (await signingParts(ctx, packet, client)).flatMap((one) =>
    one.places
      .filter(
        (p) =>
          own.includes(p.signerId) &&
          !p.declinedAt &&
          !p.paperAt &&
          one.standing.some((s) => s.place === p.place && s.turn),
      )
      .map((place) => ({ one, place })),
  );
  return { packet, client, turns };
}
/** How many wait, and how many papers are being sealed, for the page's head. */
export const countToSign = query({
  name: "count-to-sign",
  access: "answers.read",
  input: nothing,
  async run(ctx): Promise<Result<{ waiting: number; sealing: number }, CommonError>> {
    let waiting = 0;
    for (const packetId of await ctx.repo.signers.packetsOfStaff(ctx.practice.id, ctx.actor.id))
      waiting += (await ownTurns(ctx, packetId))?.turns.length ?? 0;
    return ok({ waiting, sealing: await ctx.repo.signers.countToSeal(ctx.practice.id) });
  },
});

export type OwnSignatureError =
  CommonError | MarkProblem | { readonly reason: "wrong" | "too-many" | "not-released" | "no-mark" | "not-your-turn" };

const proof = object({ password: string().max(200).default(""), code: string().max(40).default("") });
/** Keeps how one signs, after one proved who one is. */
export const keepMark = command({
  name: "keep-mark",
  access: "own-account",
  input: passwordSchema.concat(
    object({
      way: mixed<"typed" | "drawn" | "picture">().oneOf(["typed", "drawn", "picture"]).required(),
      name: string().trim().min(2, "Type your full name.").max(120).required("Type your full name."),
      path: string().max(60_000).default(""),
      png: string().max(170_000).default(""),
    }),
  ),
  before: (ctx, { png }) => pictureIn(ctx, png),
  async run(ctx, { way, name, path, password }, picture): Promise<Result<null, OwnSignatureError>> {
    const proved = await provesAnew(ctx, { password, code: "" });
    if (!proved.ok) return proved;
    if (way === "drawn" && !isDrawnPath(path)) return fail({ reason: "not-drawn" });
    if (way === "picture" && picture === undefined) return fail({ reason: "no-picture" });
    const drawn: SignatureMark = way === "drawn" ? { kind: "drawn", name, path } : { kind: "typed", name };
    const mark: SignatureMark = way === "picture" ? { kind: "picture", name, png: picture! } : drawn;
    await ctx.repo.staff.setMark(ctx.actor.id, mark, ctx.now);
    ctx.journal("signature.mark", `staff:${ctx.actor.id}`, { mark: mark.kind });
    return ok(null);
  },
});
export const dropMark = command({
  name: "drop-mark",
  access: "own-account",
  input: nothing,
  async run(ctx): Promise<Result<null, CommonError>> {
    await ctx.repo.staff.dropMark(ctx.actor.id);
    ctx.journal("signature.mark-removed", `staff:${ctx.actor.id}`);
    return ok(null);
  },
});
/** Lets one's stored signature be used for some minutes, in this session alone. */
export const releaseMark = command({
  name: "release-mark",
  access: "own-account",
  input: proof,
  async run(ctx, given): Promise<Result<{ until: Instant }, OwnSignatureError>> {
    if ((await ctx.repo.staff.mark(ctx.actor.id)) === undefined) return fail({ reason: "no-mark" });
    const proved = await provesAnew(ctx, given);
    if (!proved.ok) return proved;
    const until = laterBy(ctx.now, releasedForMs);
    await ctx.repo.sessions.release(ctx.actor.sessionDigest, until);
    ctx.journal("signature.release", `staff:${ctx.actor.id}`);
    return ok({ until });
  },
});

/** Signs with one's stored signature what was read, while it is released. */
export const signAsStaff = command({
  name: "sign-as-staff",
  access: "answers.read",
  input: object({
    packetId: idInput<"Packet">(),
    partId: idInput<"Part">(),
    place: string().max(500).default(""),
    digest: string()
      .matches(/^[0-9a-f]{64}$/)
      .required(),
  }),
  async run(ctx, { packetId, partId, place, digest }): Promise<Result<{ at: Instant }, OwnSignatureError>> {
    const { repo, practice, actor, now } = ctx;
    const until = await repo.sessions.releasedUntil(actor.sessionDigest);
    if (!until || !isBefore(now, until)) return fail({ reason: "not-released" });
    const mark = await repo.staff.mark(actor.id);
    if (!mark) return fail({ reason: "no-mark" });
    const found = await ownTurns(ctx, packetId, true);
    const own = found?.turns.find(({ one, place: at }) => one.part.id === partId && at.place === place);
    if (!found || !own) return fail({ reason: "not-your-turn" });
    const { one } = own;
    const evidence: Evidence = {
      as: signsAs(one.questionnaire, place, "practitioner"),
      proof: "staff",
      electronic: true,
      zone: practice.zone,
      staffId: actor.id,
      signerId: own.place.signerId,
    };
    const put = await putSignature(
      ctx,
      one.part,
      readIn(one.questionnaire, one.answers, place, mainLanguage(practice.locale)),
      { place, digest, signer: mark.name, mark },
      evidence,
    );
    if (!put.ok) return put;
    await repo.signers.updatePlace(own.place, { askedAt: null });
    await goOnSigning(ctx, found.packet, found.client);
    ctx.tell("returns");
    return ok({ at: put.value });
  },
});

/** Electronic signatures are accepted where this practice files its papers: asked once, before the first is sent. */
export const confirmSigning = command({
  name: "confirm-signing",
  access: "packet.send",
  input: object({ accepted: boolean().oneOf([true], "Confirm it first.").required() }),
  async run(ctx): Promise<Result<null, CommonError>> {
    const { practice, now, actor } = ctx;
    if (!practice.signing.confirmed)
      await ctx.repo.practices.setSigning(practice.id, {
        ...practice.signing,
        confirmed: { at: now, by: actor.name },
      });
    ctx.journal("signature.confirm", "practice");
    return ok(null);
  },
});

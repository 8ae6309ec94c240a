import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import { forClient, translate, type Questionnaire, type Answers } from "../../core/questionnaire";
import { fail, isBefore, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Client, Packet, Part, Signer, SignerPlace } from "../../db/repositories";
import {
  command,
  idInput,
  logoPath,
  nothing,
  notFound,
  query,
  type ClientActor,
  type CommonError,
  type Context,
} from "../kit";
import { languageOf } from "../sending/recipient";
import { goOnSigning, signerDays, signingParts, type SigningPart } from "./go-on";
import { hasSigned, signerName } from "./people";
import { markFrom, pictureIn, putSignature, signatureInput, signsAs, type MarkProblem } from "./put-signature";
import { evidenceOf } from "./sign-part";
import { readIn } from "./standing";
import { tellStaff } from "./tell-staff";

/** What one signer has before them at one place. */
export interface SignerPlaceView {
  readonly partId: Id<"Part">;
  readonly place: string;
  /** As the client filled it in, in the signer's language, without what only the practice sees. */
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
  /** It can be signed now; else somebody signs before. */
  readonly turn: boolean;
  readonly signedAt: Instant | undefined;
  readonly declined: boolean;
  readonly onPaper: boolean;
  readonly sealed: boolean;
}
export interface SignerView {
  readonly packetId: Id<"Packet">;
  readonly practiceName: string;
  readonly logo: string | null;
  /** The signer, and whose papers these are. */
  readonly person: string;
  readonly client: string;
  readonly own: boolean;
  readonly language: string;
  readonly locale: string;
  readonly zone: string;
  readonly places: readonly SignerPlaceView[];
}
export type SignerError =
  CommonError | MarkProblem | { readonly reason: "closed" | "not-your-turn" | "not-signed-here" | "declined" };

interface Mine {
  readonly packet: Packet;
  readonly client: Client;
  readonly signer: Signer;
  readonly language: string;
}
/** The signer behind this device's link, while their time is not over. */
async function mine(ctx: Context<ClientActor>, forUpdate: boolean): Promise<Mine | undefined> {
  const { repo, practice, now, actor } = ctx;
  const packet = await repo.packets.byId(practice.id, actor.packetId, forUpdate);
  const link = await repo.links.byId(actor.linkId);
  const signer = link?.signerId ? await repo.signers.byId(link.signerId) : undefined;
  const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
  if (!packet || !client || !link || link.revokedAt || signer?.packetId !== packet.id) return undefined;
  if (!isBefore(now, laterBy(link.createdAt, signerDays * 86_400_000))) return undefined;
  if (packet.state !== "returned" && packet.state !== "settled") return undefined;
  return { packet, client, signer, language: languageOf(client, packet, link) };
}
const ownPlaces = (parts: readonly SigningPart[], { id }: Signer): { one: SigningPart; place: SignerPlace }[] =>
  parts.flatMap((one) => one.places.filter((p) => p.signerId === id).map((place) => ({ one, place })));

/** Everything a signer's page needs: the questionnaires they sign, and nothing else of the packet. */
export const signerView = query({
  name: "signer-view",
  access: "client.sign",
  input: nothing,
  async run(ctx): Promise<Result<SignerView, CommonError>> {
    const found = await mine(ctx, false);
    if (!found) return notFound;
    const { packet, client, signer, language } = found;
    const { practice, repo } = ctx;
    const parts = await signingParts(ctx, packet, client);
    const places: SignerPlaceView[] = [];
    for (const { one, place } of ownPlaces(parts, signer)) {
      const standing = one.standing.find((p) => p.place === place.place);
      if (!standing) continue;
      places.push({
        partId: one.part.id,
        place: place.place,
        questionnaire: forClient(translate(one.questionnaire, language)),
        answers: one.answers,
        turn: standing.turn,
        signedAt: one.valid.find((s) => s.place === place.place)?.at,
        declined: place.declinedAt !== null,
        onPaper: place.paperAt !== null,
        sealed:
          one.complete &&
          (await hasSigned(ctx, one.part.id, signer.id)) &&
          (await repo.sealedPapers.ofPart(one.part.id)).length > 0,
      });
    }
    return ok({
      packetId: packet.id,
      practiceName: practice.name,
      logo: logoPath(practice),
      person: await signerName(ctx, client, signer),
      client: nameOf(client),
      own: !signer.relationId && !signer.staffId && !signer.person,
      language,
      locale: practice.locale,
      zone: client.zone ?? practice.zone,
      places,
    });
  },
});

/** A place of theirs whose turn it is. */
async function turnOf(
  ctx: Context<ClientActor>,
  partId: Id<"Part">,
  at: string,
): Promise<
  Result<Mine & { readonly one: SigningPart; readonly place: SignerPlace; readonly part: Part }, SignerError>
> {
  const found = await mine(ctx, true);
  if (!found) return fail({ reason: "closed" });
  const parts = await signingParts(ctx, found.packet, found.client);
  const own = ownPlaces(parts, found.signer).find(({ one, place }) => one.part.id === partId && place.place === at);
  const standing = own?.one.standing.find((p) => p.place === at);
  if (!own || !standing || standing.signed) return fail({ reason: "not-signed-here" });
  if (own.place.declinedAt) return fail({ reason: "declined" });
  if (!standing.turn) return fail({ reason: "not-your-turn" });
  return ok({ ...found, ...own, part: own.one.part });
}

/** Signs at one place, in turn. */
export const signAsSigner = command({
  name: "sign-as-signer",
  access: "client.sign",
  input: object({ partId: idInput<"Part">() }).concat(signatureInput),
  before: (ctx, { png }) => pictureIn(ctx, png),
  async run(ctx, { partId, ...given }, picture): Promise<Result<{ at: Instant }, SignerError>> {
    const found = await turnOf(ctx, partId, given.place);
    if (!found.ok) return found;
    const { packet, client, signer, one, place, part, language } = found.value;
    const mark = markFrom(one.questionnaire, given, picture);
    if (!mark.ok) return mark;
    const as = signsAs(one.questionnaire, given.place, signer.kind);
    const put = await putSignature(
      ctx,
      part,
      readIn(one.questionnaire, one.answers, given.place, language),
      { place: given.place, digest: given.digest, signer: given.name, mark: mark.value },
      await evidenceOf(ctx, as, client.zone ?? ctx.practice.zone, signer.id),
    );
    if (!put.ok) return put;
    await ctx.repo.signers.updatePlace(place, { askedAt: null });
    await goOnSigning(ctx, packet, client);
    ctx.tell("returns");
    return ok({ at: put.value });
  },
});

/** Does not sign. The practice is told, and somebody else may be asked. */
export const declineToSign = command({
  name: "decline-to-sign",
  access: "client.sign",
  input: object({
    partId: idInput<"Part">(),
    place: string().max(500).default(""),
    reason: string().trim().max(2000).default(""),
  }),
  async run(ctx, { partId, place: at, reason }): Promise<Result<null, SignerError>> {
    const found = await turnOf(ctx, partId, at);
    if (!found.ok) return found;
    await ctx.repo.signers.updatePlace(found.value.place, {
      declinedAt: ctx.now,
      ...(reason === "" ? {} : { reason }),
    });
    ctx.journal("signature.decline", `packet:${found.value.packet.id}`, {
      part: partId,
      signer: found.value.signer.id,
    });
    await tellStaff(ctx, found.value.packet);
    ctx.tell("returns");
    return ok(null);
  },
});
/** Would rather sign on paper. The practice is told, and records it when it has the sheet. */
export const askForPaper = command({
  name: "ask-for-paper",
  access: "client.sign",
  input: object({ partId: idInput<"Part">(), place: string().max(500).default("") }),
  async run(ctx, { partId, place: at }): Promise<Result<null, SignerError>> {
    const found = await turnOf(ctx, partId, at);
    if (!found.ok) return found;
    if (found.value.place.paperAt !== null) {
      ctx.journal("signature.paper-repeated", `packet:${found.value.packet.id}`, { part: partId });
      return ok(null);
    }
    await ctx.repo.signers.updatePlace(found.value.place, { paperAt: ctx.now });
    ctx.journal("signature.paper", `packet:${found.value.packet.id}`, { part: partId, signer: found.value.signer.id });
    await tellStaff(ctx, found.value.packet);
    ctx.tell("returns");
    return ok(null);
  },
});

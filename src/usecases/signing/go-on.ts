import { prune, type Answers, type Questionnaire } from "../../core/questionnaire";
import { isComplete, type PlaceStanding } from "../../core/signing";
import { laterBy, type Id } from "../../core/shared";
import type { Client, Packet, Part, Signer, SignerPlace } from "../../db/repositories";
import { inOrder, type Context } from "../kit";
import { letterLocale, dayWords, sendLetter } from "../sending/letters";
import { languageOf } from "../sending/recipient";
import { isSame, reachSigner, signerFor, whoIs, type SignerIs } from "./people";
import { placeIn } from "./put-signature";
import { ageFor, signedPart, type Reading, type SignedPart } from "./standing";
import { settleConsent } from "./settle-consent";

/** One part of a returned packet, with everything about its signatures. */
export interface SigningPart extends SignedPart {
  readonly part: Part;
  readonly questionnaire: Questionnaire;
  /** Only what is asked as things stand. */
  readonly answers: Answers;
  /** Who is to sign where now; nobody at a place is a choice for staff. */
  readonly places: readonly SignerPlace[];
  /** Everybody has signed, and it was talked over where it has to be. */
  readonly complete: boolean;
  /** It has to be talked over, and was not. */
  readonly talkMissing: boolean;
}
export async function signingParts(ctx: Reading, packet: Packet, client: Client): Promise<SigningPart[]> {
  const { repo } = ctx;
  const parts = await repo.packets.parts(packet.id);
  const places = (await repo.signers.placesOf(parts.map((p) => p.id))).filter((p) => p.endedAt === null);
  const age = ageFor(ctx, client, packet);
  return inOrder(parts, async (part) => {
    const questionnaire = await repo.versions.definition(part.versionId);
    const answers = prune(questionnaire, await repo.answers.ofPart(part.id));
    const signed = await signedPart(ctx, part, questionnaire, answers, age);
    const talk = questionnaire.signing?.talk ? await repo.signers.talkOf(part.id) : undefined;
    const talkMissing = questionnaire.signing?.talk === true && talk === undefined;
    return {
      part,
      questionnaire,
      answers,
      ...signed,
      places: places.filter((p) => p.partId === part.id),
      talkMissing,
      complete: isComplete(signed.standing) && !talkMissing,
    };
  });
}

/** For how long a signer's link opens. */
export const signerDays = 30;

/**
 * Looks at who is to sign what, after anything changed: finds signers, tells those whose turn it is, and has the paper
 * sealed of what is complete. Call with the packet held; it does nothing for one that is not back.
 */
export async function goOnSigning(ctx: Context, packet: Packet, client: Client): Promise<SigningPart[]> {
  if (packet.state !== "returned" && packet.state !== "settled") return [];
  const { repo, now } = ctx;
  const signers = await repo.signers.ofPacket(packet.id);
  const parts = await signingParts(ctx, packet, client);
  const turns = new Map<Id<"Signer">, SignerPlace[]>();
  for (const one of parts) {
    const places = [...one.places];
    for (const standing of one.standing) {
      let place = places.find((p) => p.place === standing.place);
      if (!place && !standing.signed) place = await assign(ctx, packet, client, one, standing, signers);
      if (!place || standing.signed) continue;
      if (!standing.turn || place.declinedAt || place.paperAt || place.askedAt) continue;
      if (standing.voided)
        ctx.journal("signature.void", `packet:${packet.id}`, { part: one.part.id, signer: place.signerId });
      turns.set(place.signerId, [...(turns.get(place.signerId) ?? []), place]);
    }
    if (one.complete && !(await isSealed(ctx, one))) {
      await repo.signers.setSealDue(one.part.id, now);
      ctx.tell("seal");
    }
    await settleConsent(ctx, packet, client, one);
  }
  for (const [signerId, places] of turns) {
    const signer = signers.find((s) => s.id === signerId)!;
    const written = await ask(ctx, packet, client, signer);
    for (const place of places) await repo.signers.updatePlace(place, { askedAt: now });
    ctx.journal("signature.ask", `packet:${packet.id}`, { signer: signerId, places: places.length, written });
  }
  return parts;
}
async function addPlace(ctx: Context, partId: Id<"Part">, place: string, signerId: Id<"Signer">): Promise<SignerPlace> {
  const row: SignerPlace = {
    id: ctx.random.id<"SignerPlace">(),
    partId,
    place,
    signerId,
    createdAt: ctx.now,
    askedAt: null,
    declinedAt: null,
    paperAt: null,
    endedAt: null,
    reason: undefined,
  };
  await ctx.repo.signers.addPlace(row);
  return row;
}
async function assign(
  ctx: Context,
  packet: Packet,
  client: Client,
  one: SigningPart,
  { place }: PlaceStanding,
  signers: Signer[],
): Promise<SignerPlace | undefined> {
  const item = placeIn(one.questionnaire, place);
  const who = await signerFor(ctx, packet, client, one.questionnaire, one.answers, item);
  return who && assignTo(ctx, packet, one.part.id, place, item?.signer ?? "client", who, signers);
}
/** Makes somebody the one who signs at a place. @param signers of the packet; whoever is new is added to them */
export async function assignTo(
  ctx: Context,
  packet: Pick<Packet, "id">,
  partId: Id<"Part">,
  place: string,
  kind: Signer["kind"],
  who: SignerIs,
  signers: Signer[],
): Promise<SignerPlace> {
  let signer = signers.find((s) => isSame(whoIs(s), who));
  if (!signer) {
    signer = {
      id: ctx.random.id<"Signer">(),
      packetId: packet.id,
      kind,
      relationId: who.is === "relation" ? who.relationId : null,
      staffId: who.is === "staff" ? who.staffId : null,
      person: who.is === "named" ? who.person : undefined,
      createdAt: ctx.now,
      askedAt: null,
      openedAt: null,
    };
    signers.push(signer);
    await ctx.repo.signers.add(signer);
  }
  return addPlace(ctx, partId, place, signer.id);
}
async function isSealed(ctx: Context, { part, valid }: SigningPart): Promise<boolean> {
  if (part.sealDueAt) return true;
  const latest = (await ctx.repo.sealedPapers.ofPart(part.id)).at(-1);
  return latest !== undefined && valid.every((s) => latest.signatures.includes(s.id));
}

/**
 * Tells a signer that it is their turn, or that their copy is there, with a link of their own. Staff find it in what is
 * for them to sign. @param files what goes along with the letter
 */
export async function ask(
  ctx: Context,
  packet: Packet,
  client: Client,
  signer: Signer,
  kind: "sign" | "signed" = "sign",
  files: readonly { readonly id: Id<"File">; readonly title: string }[] = [],
): Promise<boolean> {
  const { repo, now, random, sealer } = ctx;
  const recipient = await reachSigner(ctx, packet, client, signer);
  if (!recipient || recipient.ended || !recipient.contact) return false;
  const token = random.token();
  const language = languageOf(client, packet);
  const values = {
    link: `${ctx.origin}/p/${token}`,
    expires: dayWords(
      laterBy(now, signerDays * 86_400_000),
      client.zone ?? ctx.practice.zone,
      letterLocale(ctx, language),
    ),
  };
  const messageId = await sendLetter(ctx, kind, packet.id, recipient, values, undefined, [], files);
  await repo.links.endForSigner(signer.id, now);
  await repo.links.add({
    id: random.id<"Link">(),
    packetId: packet.id,
    relationId: signer.relationId,
    signerId: signer.id,
    role: "signs",
    digest: sealer.keyedDigest("link", token),
    createdAt: now,
    messageId,
  });
  if (kind === "sign") await repo.signers.update(signer.id, { askedAt: now });
  return true;
}

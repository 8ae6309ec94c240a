import { object, string } from "yup";
import { isOpen, stateAt } from "../../core/packet";
import { checkAnswers } from "../../core/questionnaire";
import { placesBeforeReturn, type Evidence, type FillerKind, type PlannedPlace, type Proof } from "../../core/signing";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Client, Packet, Part } from "../../db/repositories";
import { command, idInput, notFound, seenBy, type ClientActor, type CommonError, type Context } from "../kit";
import { kindAt, peopleOf } from "../sending/people";
import { languageOf } from "../sending/recipient";
import { assignTo } from "./go-on";
import { isSame, whoIs, type SignerIs } from "./people";
import { markFrom, pictureIn, putSignature, signatureInput, signsAs, type MarkProblem } from "./put-signature";
import { ageFor, readIn, signedPart } from "./standing";

export type SignError =
  CommonError | MarkProblem | { readonly reason: "closed" | "not-signed-here" | "not-your-turn" | "incomplete" };

/** A part that is being filled in, and the place of it that this person signs. */
async function placeHere(
  ctx: Context<ClientActor>,
  partId: Id<"Part">,
  place: string,
  forUpdate: boolean,
): Promise<
  Result<{ part: Part; packet: Packet; client: Client; language: string; kind: FillerKind; turn: boolean }, SignError>
> {
  const { repo, practice, now, actor } = ctx;
  const found = await repo.packets.part(practice.id, partId, forUpdate);
  const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
  if (!client || found?.packet.id !== actor.packetId) return notFound;
  if (!isOpen(stateAt(found.packet.state, found.packet.expiresAt, now))) return fail({ reason: "closed" });
  const questionnaire = await repo.versions.definition(found.part.versionId);
  const answers = await repo.answers.ofPart(partId, seenBy(actor));
  const kind = kindAt(await peopleOf(ctx, found.packet, client), actor.linkId);
  const { standing } = await signedPart(ctx, found.part, questionnaire, answers, ageFor(ctx, client, found.packet));
  const own = standing.find((p) => p.place === place);
  if (!own || !isTheirs(standing, place, kind)) return fail({ reason: "not-signed-here" });
  if (checkAnswers(questionnaire, answers).length > 0) return fail({ reason: "incomplete" });
  return ok({
    part: found.part,
    packet: found.packet,
    client,
    kind,
    language: languageOf(client, found.packet, await repo.links.byId(actor.linkId)),
    turn: own.turn || own.signed,
  });
}
const isTheirs = (plan: readonly PlannedPlace[], place: string, kind: ReturnType<typeof kindAt>): boolean =>
  placesBeforeReturn(
    plan.map((planned) => ({ ...planned, after: [] })),
    [kind],
  ).some((planned) => planned.place === place);

/** Whoever fills it in signs here: they are named among the signers of the packet. */
async function signerHere(
  ctx: Context<ClientActor>,
  packet: Packet,
  part: Part,
  place: string,
  kind: FillerKind,
): Promise<Id<"Signer">> {
  const { repo } = ctx;
  const link = await repo.links.byId(ctx.actor.linkId);
  const who: SignerIs = link?.relationId ? { is: "relation", relationId: link.relationId } : { is: "client" };
  const signers = await repo.signers.ofPacket(packet.id);
  const now = (await repo.signers.placesOf([part.id])).find((p) => p.place === place && p.endedAt === null);
  const before = now && signers.find((s) => s.id === now.signerId);
  if (now && before && isSame(whoIs(before), who)) return before.id;
  if (now) await repo.signers.updatePlace(now, { endedAt: ctx.now });
  const as = kind === "parent" ? "guardian" : kind;
  return (await assignTo(ctx, packet, part.id, place, as, who, signers)).signerId;
}

/** How this device's holder proved who they are. */
export async function evidenceOf(
  ctx: Context<ClientActor>,
  as: string,
  zone: string,
  signerId: Id<"Signer">,
): Promise<Evidence> {
  const pass = await ctx.repo.passes.byDigest(ctx.actor.passDigest, ctx.now);
  return {
    as,
    proof: (pass?.way || "link") as Proof,
    ...(pass ? { provedAt: pass.createdAt } : {}),
    electronic: true,
    zone,
    signerId,
  };
}

/**
 * Puts a signature under one questionnaire as it stands, while it is filled in. A later change of its answers makes
 * signing again necessary.
 */
export const signPart = command({
  name: "sign-part",
  access: "client.fill",
  input: object({ partId: idInput<"Part">() }).concat(signatureInput),
  before: (ctx, { png }) => pictureIn(ctx, png),
  async run(ctx, { partId, ...given }, picture): Promise<Result<{ at: Instant }, SignError>> {
    const found = await placeHere(ctx, partId, given.place, true);
    if (!found.ok) return found;
    const { part, packet, client, language, kind, turn } = found.value;
    if (!turn) return fail({ reason: "not-your-turn" });
    const questionnaire = await ctx.repo.versions.definition(part.versionId);
    const mark = markFrom(questionnaire, given, picture);
    if (!mark.ok) return mark;
    const read = readIn(questionnaire, await ctx.repo.answers.ofPart(partId, seenBy(ctx.actor)), given.place, language);
    const signerId = await signerHere(ctx, packet, part, given.place, kind);
    const as = signsAs(questionnaire, given.place, kind);
    const put = await putSignature(
      ctx,
      part,
      read,
      { place: given.place, digest: given.digest, signer: given.name, mark: mark.value },
      await evidenceOf(ctx, as, client.zone ?? ctx.practice.zone, signerId),
    );
    return put.ok ? ok({ at: put.value }) : put;
  },
});

/** Would rather sign on paper: the packet goes back without, and the practice records it when it has the sheet. */
export const askForPaperHere = command({
  name: "ask-for-paper-here",
  access: "client.fill",
  input: object({ partId: idInput<"Part">(), place: string().max(500).default("") }),
  async run(ctx, { partId, place }): Promise<Result<null, SignError>> {
    const found = await placeHere(ctx, partId, place, true);
    if (!found.ok) return found;
    const { part, packet, kind } = found.value;
    const signerId = await signerHere(ctx, packet, part, place, kind);
    const row = (await ctx.repo.signers.placesOf([partId])).find((p) => p.place === place && p.endedAt === null)!;
    if (row.paperAt !== null) {
      ctx.journal("signature.paper-repeated", `packet:${packet.id}`, { part: partId });
      return ok(null);
    }
    await ctx.repo.signers.updatePlace(row, { paperAt: ctx.now });
    ctx.journal("signature.paper", `packet:${packet.id}`, { part: partId, signer: signerId });
    return ok(null);
  },
});

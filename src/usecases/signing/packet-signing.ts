import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import { talkSchema } from "../../core/forms";
import type { QuestionnaireKind, Signer as SignerKind } from "../../core/questionnaire";
import { textDigest, type SigningState, type Talk } from "../../core/signing";
import { fail, instantMs, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Client, Packet, Signer } from "../../db/repositories";
import {
  command,
  idInput,
  inOrder,
  may,
  notFound,
  query,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";
import { languageOf } from "../sending/recipient";
import { signerChoiceInput, signerChosen } from "./choose-signer";
import { ask, assignTo, goOnSigning, signingParts, type SigningPart } from "./go-on";
import { isSame, reachSigner, signerName, whoIs } from "./people";
import { signingLines, stepsOf, type PaperStep } from "./paper-steps";
import { placeIn, putSignature, signsAs } from "./put-signature";
import { readIn } from "./standing";

export interface SigningLine {
  readonly place: string;
  /** What is agreed to there; of a questionnaire that is signed as a whole, nothing. */
  readonly text: string;
  readonly kind: SignerKind | undefined;
  readonly title: string;
  readonly required: boolean;
  readonly state: SigningState;
  readonly who: string | undefined;
  readonly signerId: Id<"Signer"> | undefined;
  readonly isStaff: boolean;
  readonly masked: string | undefined;
  readonly signedAt: Instant | undefined;
  readonly askedAt: Instant | undefined;
  readonly openedAt: Instant | undefined;
  /** Why they declined, or somebody else signs. */
  readonly reason: string | undefined;
  /** Whoever looks signs here. */
  readonly own: boolean;
}
export interface SigningPartView {
  readonly partId: Id<"Part">;
  readonly title: string;
  readonly kind: QuestionnaireKind;
  readonly lines: readonly SigningLine[];
  readonly talkNeeded: boolean;
  readonly talk: (Talk & { readonly by: string; readonly recordedAt: Instant }) | undefined;
  readonly complete: boolean;
  readonly sealing: boolean;
  /** The newest paper that is sealed, and how many there were before. */
  readonly paper: { readonly at: Instant; readonly number: number; readonly revision: number } | undefined;
  /** What the journal tells of it, oldest first. */
  readonly steps: readonly PaperStep[];
}
export interface PacketSigningView {
  readonly packetId: Id<"Packet">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly parts: readonly SigningPartView[];
  readonly around: readonly { readonly id: Id<"Relation">; readonly name: string; readonly kind: string }[];
  readonly staff: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  /** Whoever looks may see answers, and so sign and record talks. */
  readonly maySee: boolean;
  /** There is somebody to wait for, or to choose. */
  readonly open: boolean;
}

async function returned(
  ctx: Context,
  packetId: Id<"Packet">,
  forUpdate: boolean,
): Promise<{ packet: Packet; client: Client } | undefined> {
  const packet = await ctx.repo.packets.byId(ctx.practice.id, packetId, forUpdate);
  const client = packet && (await ctx.repo.clients.byId(ctx.practice.id, packet.clientId));
  return packet && client && (packet.state === "returned" || packet.state === "settled")
    ? { packet, client }
    : undefined;
}

/** Who signs what of a packet, whose turn it is, and what became of it. No answers in it. */
export const packetSigning = query({
  name: "packet-signing",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">() }),
  async run(ctx, { packetId }): Promise<Result<PacketSigningView, CommonError>> {
    const { repo, practice } = ctx;
    const found = await returned(ctx, packetId, false);
    if (!found) return notFound;
    const { packet, client } = found;
    const signers = await repo.signers.ofPacket(packetId);
    const all = (await signingParts(ctx, packet, client)).filter((p) => p.standing.length > 0 || p.talkMissing);
    const staff = await repo.staff.all(practice.id);
    const lines = await signingLines(ctx, packet);
    const places = await repo.signers.placesOf(all.map((one) => one.part.id));
    const names = new Map<string, string>(staff.map(({ id, name }) => [`staff:${id}`, name]));
    for (const signer of signers) names.set(signer.id, await signerName(ctx, client, signer));
    const parts = await inOrder(all, async (one): Promise<SigningPartView> => {
      const talk = one.questionnaire.signing?.talk ? await repo.signers.talkOf(one.part.id) : undefined;
      const paper = (await repo.sealedPapers.ofPart(one.part.id)).at(-1);
      return {
        partId: one.part.id,
        title: one.questionnaire.title,
        kind: one.questionnaire.kind,
        lines: await inOrder(one.standing, (standing) => lineFor(ctx, packet, client, one, standing, signers)),
        talkNeeded: one.questionnaire.signing?.talk === true,
        talk: talk && {
          ...(may(ctx, "answers.read") ? talk : { ...talk, present: "", questions: "" }),
          by: staff.find((s) => s.id === talk.staffId)?.name ?? "",
        },
        complete: one.complete,
        sealing: one.part.sealDueAt !== null,
        paper: paper && { at: paper.createdAt, number: paper.number, revision: paper.revision },
        steps: stepsOf(lines, one.part.id, places, names),
      };
    });
    return ok({
      packetId,
      clientId: client.id,
      clientName: nameOf(client),
      parts,
      around: (await repo.relations.ofClient(client.id))
        .filter((r) => !r.ended)
        .map((r) => ({ id: r.id, name: nameOf(r), kind: r.kind })),
      staff: staff.filter((s) => s.active).map(({ id, name }) => ({ id, name })),
      maySee: may(ctx, "answers.read"),
      open: parts.some((p) => !p.complete),
    });
  },
});
async function lineFor(
  ctx: Context<StaffActor>,
  packet: Packet,
  client: Client,
  one: SigningPart,
  standing: SigningPart["standing"][number],
  signers: readonly Signer[],
): Promise<SigningLine> {
  const place = one.places.find((p) => p.place === standing.place);
  const signer = place && signers.find((s) => s.id === place.signerId);
  const signature = one.signatures.find((s) => s.place === standing.place);
  const item = placeIn(one.questionnaire, standing.place);
  const stateOf = (): SigningState => {
    if (standing.signed) return "signed";
    if (!place) return "nobody";
    if (place.declinedAt) return "declined";
    if (place.paperAt) return "paper";
    if (standing.turn) return standing.voided ? "void" : "turn";
    return "waits";
  };
  return {
    place: standing.place,
    text: item?.text ?? "",
    kind: standing.signer,
    title: item?.signing?.title ?? "",
    required: standing.required,
    state: stateOf(),
    who: standing.signed ? signature?.statement.signer : signer && (await signerName(ctx, client, signer)),
    signerId: signer?.id,
    isStaff: typeof signer?.staffId === "string",
    masked: signer && (await reachSigner(ctx, packet, client, signer))?.contact?.masked,
    signedAt: standing.signed ? signature?.at : undefined,
    // Staff are not written to: it waits for them since it is their turn.
    askedAt: (signer?.staffId ? place?.askedAt : signer?.askedAt) ?? undefined,
    openedAt: signer?.openedAt ?? undefined,
    reason: place?.reason,
    own: signer?.staffId === ctx.actor.id,
  };
}

export type PacketSigningError =
  CommonError | { readonly reason: "no-contact" | "signed" | "not-their-turn" | "nobody-chosen" };

const soonMs = 60_000;
/** Writes to a signer again, with another link; what they had opens nothing any more. */
export const nudgeSigner = command({
  name: "nudge-signer",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">(), signerId: idInput<"Signer">() }),
  async run(ctx, { packetId, signerId }): Promise<Result<null, PacketSigningError>> {
    const found = await returned(ctx, packetId, true);
    const signer = found && (await ctx.repo.signers.byId(signerId));
    if (!found || signer?.packetId !== packetId) return notFound;
    const parts = await signingParts(ctx, found.packet, found.client);
    const waits = parts.some((one) =>
      one.places.some(
        (p) => p.signerId === signerId && !p.declinedAt && one.standing.some((s) => s.place === p.place && s.turn),
      ),
    );
    if (!waits) return fail({ reason: "not-their-turn" });
    if (signer.askedAt && instantMs(ctx.now) - instantMs(signer.askedAt) < soonMs) {
      ctx.journal("packet.nudge-repeated", `packet:${packetId}`);
      return ok(null);
    }
    if (!(await ask(ctx, found.packet, found.client, signer))) return fail({ reason: "no-contact" });
    ctx.journal("packet.nudge", `packet:${packetId}`, { signer: signerId });
    return ok(null);
  },
});

/** Somebody else signs at a place, with a reason; or somebody, where nobody was found. */
export const replaceSigner = command({
  name: "replace-signer",
  access: "packet.send",
  input: object({
    packetId: idInput<"Packet">(),
    partId: idInput<"Part">(),
    place: string().max(500).default(""),
    reason: string().trim().max(2000).default(""),
  }).concat(signerChoiceInput),
  async run(ctx, input): Promise<Result<null, PacketSigningError>> {
    const { packetId, partId, place: at, reason } = input;
    const found = await returned(ctx, packetId, true);
    if (!found) return notFound;
    const { packet, client } = found;
    const one = (await signingParts(ctx, packet, client)).find((p) => p.part.id === partId);
    const standing = one?.standing.find((p) => p.place === at);
    const who = await signerChosen(ctx, client, input);
    if (!one || !standing) return notFound;
    if (!who) return fail({ reason: "nobody-chosen" });
    if (standing.signed) return fail({ reason: "signed" });
    const signers = await ctx.repo.signers.ofPacket(packetId);
    const now = one.places.find((p) => p.place === at);
    const before = now && signers.find((s) => s.id === now.signerId);
    if (before && isSame(whoIs(before), who) && !now.declinedAt && !now.paperAt) {
      ctx.journal("signature.replace-repeated", `packet:${packetId}`);
      return ok(null);
    }
    if (now && reason === "") return fail({ reason: "invalid", fields: { reason: "Say in a few words why." } });
    if (now) await ctx.repo.signers.updatePlace(now, { endedAt: ctx.now, reason });
    const fresh = await assignTo(ctx, packet, partId, at, standing.signer ?? "client", who, signers);
    if (before && !(await stillSigns(ctx, packet, before))) await ctx.repo.links.endForSigner(before.id, ctx.now);
    ctx.journal("signature.replace", `packet:${packetId}`, { part: partId, signer: fresh.signerId });
    await goOnSigning(ctx, packet, client);
    ctx.tell("returns");
    return ok(null);
  },
});
async function stillSigns(ctx: Context, packet: Packet, { id }: Signer): Promise<boolean> {
  const parts = await ctx.repo.packets.parts(packet.id);
  const places = await ctx.repo.signers.placesOf(parts.map((p) => p.id));
  return places.some((p) => p.signerId === id && p.endedAt === null);
}
/** A sheet signed by hand came back: recorded by who has it before them. */
export const recordPaperSignature = command({
  name: "record-paper-signature",
  access: "packet.send",
  input: object({
    packetId: idInput<"Packet">(),
    partId: idInput<"Part">(),
    place: string().max(500).default(""),
    name: string().trim().min(2, "Type the name on the sheet.").max(120).required("Type the name on the sheet."),
  }),
  async run(ctx, { packetId, partId, place: at, name }): Promise<Result<null, PacketSigningError>> {
    const found = await returned(ctx, packetId, true);
    if (!found) return notFound;
    const { packet, client } = found;
    const one = (await signingParts(ctx, packet, client)).find((p) => p.part.id === partId);
    const standing = one?.standing.find((p) => p.place === at);
    if (!one || !standing) return notFound;
    if (standing.signed) return fail({ reason: "signed" });
    if (!standing.turn) return fail({ reason: "not-their-turn" });
    const read = readIn(one.questionnaire, one.answers, at, languageOf(client, packet));
    const as = signsAs(one.questionnaire, at, standing.signer ?? "client");
    // Where nobody was chosen, it is whoever's name stands on the sheet, and there is no address of theirs.
    const place =
      one.places.find((p) => p.place === at) ??
      (await assignTo(
        ctx,
        packet,
        partId,
        at,
        standing.signer ?? "client",
        { is: "named", person: { name, email: "", title: as } },
        await ctx.repo.signers.ofPacket(packetId),
      ));
    const put = await putSignature(
      ctx,
      one.part,
      read,
      { place: at, digest: textDigest(read), signer: name, mark: { kind: "paper", name } },
      {
        as,
        proof: "sheet",
        electronic: false,
        zone: ctx.practice.zone,
        staffId: ctx.actor.id,
        signerId: place.signerId,
      },
    );
    if (!put.ok) throw new Error("What was read cannot have changed since it was read here.");
    await ctx.repo.signers.updatePlace(place, { askedAt: null });
    await goOnSigning(ctx, packet, client);
    ctx.tell("returns");
    return ok(null);
  },
});

/** That a consent was talked over, so that it may count. */
export const recordTalk = command({
  name: "record-talk",
  access: "answers.read",
  input: object({ packetId: idInput<"Packet">(), partId: idInput<"Part">() }).concat(talkSchema),
  async run(ctx, { packetId, partId, ...said }): Promise<Result<null, PacketSigningError>> {
    const found = await returned(ctx, packetId, true);
    if (!found) return notFound;
    const { packet, client } = found;
    const one = (await signingParts(ctx, packet, client)).find((p) => p.part.id === partId);
    if (!one?.questionnaire.signing?.talk) return notFound;
    if (!one.talkMissing) {
      ctx.journal("signature.talk-repeated", `packet:${packetId}`, { part: partId });
      return ok(null);
    }
    await ctx.repo.signers.addTalk(ctx.random.id<"Talk">(), partId, {
      ...said,
      staffId: ctx.actor.id,
      recordedAt: ctx.now,
    });
    ctx.journal("signature.talk", `packet:${packetId}`, { part: partId, how: said.how });
    await goOnSigning(ctx, packet, client);
    return ok(null);
  },
});

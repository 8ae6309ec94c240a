import { object } from "yup";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { ConsentState } from "../../core/consent";
import type { PaperLook } from "../../adapters/paper-checks";
import type { SealedPaper } from "../../db/repositories";
import { bytesInput, command, idInput, notFound, type CommonError, type Context } from "../kit";
import { ask, signingParts } from "./go-on";
import { consentOfPart } from "./consent-of-part";

interface PaperFile {
  readonly title: string;
  readonly bytes: Uint8Array;
}
/** The newest revision of the newest paper. */
async function newest(ctx: Pick<Context, "repo" | "practice">, partId: Id<"Part">): Promise<PaperFile | undefined> {
  const paper = (await ctx.repo.sealedPapers.ofPart(partId)).at(-1);
  const held = paper && (await ctx.repo.files.byId(ctx.practice.id, paper.fileId));
  return held && { title: held.file.title, bytes: held.bytes };
}

/** The sealed paper of a part, for staff. */
export const openPaper = command({
  name: "open-paper",
  access: "export",
  input: object({ partId: idInput<"Part">() }),
  async run(ctx, { partId }): Promise<Result<PaperFile, CommonError>> {
    const found = await ctx.repo.packets.part(ctx.practice.id, partId);
    const client = found && (await ctx.repo.clients.byId(ctx.practice.id, found.packet.clientId));
    const file = client && (await newest(ctx, partId));
    if (!found || !file) return notFound;
    ctx.journal("paper.open", `packet:${found.packet.id}`, { part: partId });
    return ok(file);
  },
});

/** The sealed paper, for somebody who signed it or whose packet it is, behind their door. */
export const signedCopy = command({
  name: "signed-copy",
  access: "client.any",
  input: object({ partId: idInput<"Part">() }),
  async run(ctx, { partId }): Promise<Result<PaperFile, CommonError>> {
    const { repo, practice, actor } = ctx;
    const found = await repo.packets.part(practice.id, partId);
    const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
    if (found?.packet.id !== actor.packetId || !client) return notFound;
    const link = await repo.links.byId(actor.linkId);
    const signerId = link?.signerId ?? undefined;
    const signed =
      signerId !== undefined && (await repo.signers.placesOf([partId])).some((p) => p.signerId === signerId);
    // On a device of the practice, or where nothing earlier is shown, nothing is left to be taken along.
    if (actor.role === "signs" ? !signed : actor.handedBy !== undefined || actor.unseen) return notFound;
    const file = await newest(ctx, partId);
    if (!file) return notFound;
    ctx.journal("paper.open", `packet:${found.packet.id}`, { part: partId });
    return ok(file);
  },
});

/** Once the last paper of a packet is sealed, everybody who signed hears where their copy is. */
export const tellSigned = command({
  name: "tell-signed",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">() }),
  async run(ctx, { packetId }): Promise<Result<{ told: number }, CommonError>> {
    const { repo, practice } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId, true);
    const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
    if (!packet || !client) return notFound;
    const parts = (await signingParts(ctx, packet, client)).filter((p) => p.standing.length > 0);
    let told = 0;
    if (parts.every((p) => p.complete && p.part.sealDueAt === null)) {
      const signed = new Set(parts.flatMap((p) => p.signatures.flatMap((s) => s.evidence?.signerId ?? [])));
      const newestOf = new Map<Id<"Part">, SealedPaper>();
      for (const { part } of parts) {
        const paper = (await repo.sealedPapers.ofPart(part.id)).at(-1);
        if (paper) newestOf.set(part.id, paper);
      }
      for (const signer of (await repo.signers.ofPacket(packetId)).filter((s) => signed.has(s.id) && !s.staffId)) {
        const own = parts.filter((p) => p.signatures.some((s) => s.evidence?.signerId === signer.id));
        const files = practice.signing.mailsPapers
          ? own.flatMap((p) => {
              const paper = newestOf.get(p.part.id);
              return paper ? [{ id: paper.fileId, title: `${p.questionnaire.title}.pdf` }] : [];
            })
          : [];
        if (await ask(ctx, packet, client, signer, "signed", files)) told++;
      }
    }
    ctx.journal("paper.copies", `packet:${packetId}`, { told });
    return ok({ told });
  },
});

/** What is to be said of a paper that somebody brings. */
export interface PaperVerdict extends PaperLook {
  readonly seals: readonly (PaperLook["seals"][number] & {
    /** This practice's certificate made it. */
    readonly ours: boolean;
    /** What it covers is a paper of ours, byte by byte. */
    readonly known: boolean;
  })[];
  /** What is known of it here; only for what is ours and unchanged. */
  readonly paper:
    | {
        readonly packetId: Id<"Packet">;
        readonly title: string;
        readonly number: number;
        readonly revision: number;
        /** There is a newer one. */
        readonly newer: boolean;
        readonly signatures: readonly { readonly signer: string; readonly at: Instant; readonly stands: boolean }[];
        readonly consent: ConsentState | undefined;
      }
    | undefined;
}
/** Ours or not, changed or not, who signed what and when, and whether a consent still stands. */
export const checkPaper = command({
  name: "check-paper",
  access: "answers.read",
  input: object({ bytes: bytesInput.required() }),
  before: (ctx, { bytes }) => ctx.papers.look(bytes),
  async run(
    ctx,
    _input,
    look,
  ): Promise<Result<PaperVerdict, CommonError | { readonly reason: "unreadable" | "busy" }>> {
    if (!look.ok) return fail({ reason: look.error === "busy" ? "busy" : "unreadable" });
    const verdict = await verdictOn(ctx, look.value);
    ctx.journal("paper.check", verdict.paper ? `packet:${verdict.paper.packetId}` : "practice", {
      ours: verdict.seals.some((s) => s.ours),
      known: verdict.paper !== undefined,
    });
    return ok(verdict);
  },
});
export async function verdictOn(
  ctx: Pick<Context, "repo" | "practice" | "now">,
  look: PaperLook,
): Promise<PaperVerdict> {
  const { repo, practice } = ctx;
  const own = (await repo.sealedPapers.certificates(practice.id)).map((c) => c.fingerprint);
  const seals: PaperVerdict["seals"][number][] = [];
  let last: SealedPaper | undefined;
  for (const seal of look.seals) {
    const row = seal.intact ? await repo.sealedPapers.bySha256(practice.id, seal.sha256) : undefined;
    if (row) last = row;
    seals.push({ ...seal, ours: own.includes(seal.fingerprint), known: row !== undefined });
  }
  const found = last && (await repo.packets.part(practice.id, last.partId));
  const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
  if (!last || !found || !client) return { ...look, seals, paper: undefined };
  const one = (await signingParts(ctx, found.packet, client)).find((p) => p.part.id === last.partId);
  const all = await repo.sealedPapers.ofPart(last.partId);
  const given = await repo.signatures.byIds(last.signatures as readonly Id<"Signature">[]);
  return {
    ...look,
    seals,
    paper: {
      packetId: found.packet.id,
      title: one?.questionnaire.title ?? "",
      number: last.number,
      revision: last.revision,
      newer: all.at(-1)?.id !== last.id,
      signatures: given.map((s) => ({
        signer: s.statement.signer,
        at: s.at,
        stands:
          one?.signatures.some(
            (now) => now.id === s.id && one.standing.some((p) => p.place === s.place && p.signed),
          ) === true,
      })),
      consent: await consentOfPart(ctx, last.partId),
    },
  };
}

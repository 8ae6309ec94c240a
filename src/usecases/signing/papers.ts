import { object } from "yup";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { ConsentState } from "../../core/consent";
import { paperOutcome, type PaperOutcome, type SealOutcome } from "../../core/signing";
import type { PaperLook, SealLook } from "../../adapters/paper-checks";
import type { SealedPaper } from "../../db/repositories";
import { bytesInput, command, idInput, notFound, type CommonError } from "../kit";
import { ask, signingParts } from "./go-on";
import { consentOfPart } from "./consent-of-part";
import { hasSigned } from "./people";
import { paperToSeal } from "./sealing";
import type { Reading } from "./standing";

interface PaperFile {
  readonly title: string;
  readonly bytes: Uint8Array;
}
/** The newest revision of the newest paper. */
async function newest(ctx: Pick<Reading, "repo" | "practice">, partId: Id<"Part">): Promise<PaperFile | undefined> {
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

/** The sealed paper, for somebody who signed it, behind their door. */
export const signedCopy = command({
  name: "signed-copy",
  access: "client.sign",
  input: object({ partId: idInput<"Part">() }),
  async run(ctx, { partId }): Promise<Result<PaperFile, CommonError>> {
    const { repo, practice, actor } = ctx;
    const found = await repo.packets.part(practice.id, partId);
    const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
    const link = await repo.links.byId(actor.linkId);
    if (found?.packet.id !== actor.packetId || !client || !link?.signerId) return notFound;
    const file = (await hasSigned(ctx, partId, link.signerId)) ? await newest(ctx, partId) : undefined;
    if (!file) return notFound;
    ctx.journal("paper.open", `packet:${found.packet.id}`, { part: partId });
    return ok(file);
  },
});
/**
 * What is left to do once a paper is sealed: it is due no longer, and after the last of its packet everybody who signed
 * hears where their copy is. Done at once or not at all, so that whoever is killed before does it when it runs again.
 */
export const tellSigned = command({
  name: "tell-signed",
  access: "packet.send",
  input: object({ partId: idInput<"Part">() }),
  async run(ctx, { partId }): Promise<Result<{ told: number }, CommonError>> {
    const { repo, practice } = ctx;
    const found = await repo.packets.part(practice.id, partId, true);
    const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
    if (!found || !client) return notFound;
    const { packet } = found;
    const packetId = packet.id;
    // Somebody else signed meanwhile: it stays due, and is told of once that is sealed, too.
    if (found.part.sealDueAt === null || (await paperToSeal(ctx, partId)) !== "sealed") {
      ctx.journal("paper.copies", `packet:${packetId}`, { told: 0 });
      return ok({ told: 0 });
    }
    await repo.signers.setSealDue(partId, null);
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
  readonly seals: readonly (SealLook & SealOutcome)[];
  readonly outcome: PaperOutcome;
  /** The newest of our papers that are in it whole, whatever was put behind; none where none is. */
  readonly paper:
    | {
        readonly packetId: Id<"Packet">;
        readonly partId: Id<"Part">;
        readonly title: string;
        readonly number: number;
        readonly revision: number;
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
      ...(verdict.paper ? { part: verdict.paper.partId } : {}),
    });
    return ok(verdict);
  },
});
export async function verdictOn(ctx: Reading, look: PaperLook): Promise<PaperVerdict> {
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
  if (!last || !found || !client) return { ...look, seals, outcome: paperOutcome(seals, false), paper: undefined };
  const one = (await signingParts(ctx, found.packet, client)).find((p) => p.part.id === last.partId);
  const newer = (await repo.sealedPapers.ofPart(last.partId)).at(-1)?.id !== last.id;
  const given = await repo.signatures.byIds(last.signatures as readonly Id<"Signature">[]);
  return {
    ...look,
    seals,
    outcome: paperOutcome(seals, newer),
    paper: {
      packetId: found.packet.id,
      partId: last.partId,
      title: one?.questionnaire.title ?? "",
      number: last.number,
      revision: last.revision,
      signatures: given.map((s) => ({
        signer: s.statement.signer,
        at: s.at,
        stands: one?.valid.some((now) => now.id === s.id) === true,
      })),
      consent: await consentOfPart(ctx, last.partId),
    },
  };
}

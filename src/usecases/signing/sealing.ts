import { nameOf } from "../../core/chart";
import { answerWordsFor, dateWords, translate } from "../../core/questionnaire";
import { readingOrder, talkWords } from "../../core/signing";
import type { Id } from "../../core/shared";
import type { LaterPaper, PaperSignature, SignedPaper } from "../../adapters/signed-paper";
import type { Packet, SealedPaper, Signature } from "../../db/repositories";
import { letterhead } from "../kit";
import { letterLocale } from "../sending/letters";
import { signingParts, type SigningPart } from "./go-on";
import type { Reading } from "./standing";

export interface ToSeal {
  readonly packet: Packet;
  readonly one: SigningPart;
  /** The signatures that stand, in the order they were given. */
  readonly signatures: readonly Signature[];
  /** The paper they go on to: the newest, where what it says is still what was signed. */
  readonly goesOn: SealedPaper | undefined;
  /** Of the paper that is to be made. */
  readonly number: number;
  readonly revision: number;
  readonly paper: { readonly whole: SignedPaper } | { readonly later: LaterPaper };
}

/** What is to be sealed of a part; undefined where it is not complete any more, or sealed already. */
export async function paperToSeal(ctx: Reading, partId: Id<"Part">): Promise<ToSeal | undefined> {
  const { repo, practice } = ctx;
  const found = await repo.packets.part(practice.id, partId);
  const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
  if (!found || !client) return undefined;
  const { packet } = found;
  const one = (await signingParts(ctx, packet, client)).find((p) => p.part.id === partId);
  if (!one?.complete) return undefined;
  const signatures = one.signatures
    .filter((s) => one.standing.some((p) => p.place === s.place && p.signed))
    .sort((a, b) => a.order - b.order);
  const papers = await repo.sealedPapers.ofPart(partId);
  const last = papers.at(-1);
  const isOn = ({ id }: Signature): boolean => last?.signatures.includes(id) === true;
  const goesOn = last && last.signatures.every((id) => signatures.some((s) => s.id === id)) ? last : undefined;
  if (goesOn && signatures.every(isOn)) return undefined;
  const added = goesOn ? signatures.filter((s) => !isOn(s)) : signatures;
  const first = signatures[0]!.statement.language;
  const lines = await repo.journal.linesOfSignatures(practice.id, packet.id);
  const shared = {
    ...(await letterhead(ctx)),
    language: first,
    locale: letterLocale(ctx, first),
    zone: practice.zone,
    title: translate(one.questionnaire, first).title,
    version: one.questionnaire.version,
    client: nameOf(client),
    birthDate: client.birthDate && dateWords(client.birthDate, letterLocale(ctx, first)),
    returnedAt: packet.returnedAt ?? packet.createdAt,
    reference: partId,
    madeAt: ctx.now,
    signatures: added.map((given): PaperSignature => ({
      id: given.id,
      place: given.place,
      statement: given.statement,
      digest: given.digest,
      address: given.address,
      device: given.device,
      evidence: given.evidence,
      journal: lines.get(given.id),
    })),
  };
  return {
    packet,
    one,
    signatures,
    goesOn,
    number: goesOn ? goesOn.number : (last?.number ?? 0) + 1,
    revision: goesOn ? goesOn.revision + 1 : 1,
    paper: goesOn
      ? { later: { ...shared, earlier: goesOn.createdAt } }
      : { whole: { ...shared, readings: readingsOf(ctx, one, signatures), talk: await talkLines(ctx, partId) } },
  };
}
function readingsOf(
  ctx: Reading,
  { questionnaire, answers }: SigningPart,
  signatures: readonly Signature[],
): SignedPaper["readings"] {
  return [...new Set(signatures.map((s) => s.statement.language))].map((language) => {
    const read = translate(questionnaire, language);
    const words = { ...answerWordsFor(language), locale: letterLocale(ctx, language) };
    return { language, title: read.title, blocks: readingOrder(read, answers, words) };
  });
}
async function talkLines({ repo, practice }: Reading, partId: Id<"Part">): Promise<SignedPaper["talk"]> {
  const talk = await repo.signers.talkOf(partId);
  if (!talk) return [];
  const by = (await repo.staff.all(practice.id)).find((s) => s.id === talk.staffId)?.name ?? "";
  return [
    [
      "Talked over",
      `${dateWords(talk.on, practice.locale)}, ${talkWords[talk.how].toLowerCase()}, with ${talk.present}`,
    ],
    ...(talk.questions === "" ? [] : [["Questions asked", talk.questions] as const]),
    ["Recorded by", by],
  ];
}

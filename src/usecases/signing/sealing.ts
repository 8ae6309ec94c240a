import { nameOf } from "../../core/chart";
import { answerWordsFor, dateWords, translate, type SheetBox } from "../../core/questionnaire";
import { dayIn } from "../../core/scheduling";
import { placesOf, readingOrder, talkWords, type SignedStatement } from "../../core/signing";
import { sheetValues, type SheetValue } from "../../core/worksheet";
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
  /** The PDF that is signed as well: it stands before the rest, filled in, with the signatures in their boxes. */
  readonly sheet: SheetToSign | undefined;
  /** The paper they go on to: the newest, where what it says is still what was signed. */
  readonly goesOn: SealedPaper | undefined;
  /** Of the paper that is to be made. */
  readonly number: number;
  readonly revision: number;
  readonly paper: { readonly whole: SignedPaper } | { readonly later: LaterPaper };
}

export interface SheetToSign {
  readonly id: Id<"File">;
  readonly values: readonly SheetValue[];
  readonly marks: readonly { readonly box: SheetBox; readonly statement: SignedStatement; readonly when: string }[];
}
function sheetToSign(
  ctx: Reading,
  { questionnaire, answers }: SigningPart,
  signatures: readonly Signature[],
): SheetToSign | undefined {
  const { sheet } = questionnaire;
  const boxes = new Map(placesOf(questionnaire).map((place) => [place.linkId, place.signing?.onSheet]));
  const marks = signatures.flatMap(({ place, statement, evidence, at }) => {
    const box = boxes.get(place);
    if (!box) return [];
    const day = dayIn(at, evidence?.zone ?? ctx.practice.zone);
    return [{ box, statement, when: dateWords(day, letterLocale(ctx, statement.language)) }];
  });
  return sheet && [...boxes.values()].some((box) => box !== undefined)
    ? { id: sheet.id as Id<"File">, values: sheetValues(questionnaire, answers), marks }
    : undefined;
}
/** What is to be sealed of a part, unless it is sealed as it stands, or not complete any more. */
export async function paperToSeal(ctx: Reading, partId: Id<"Part">): Promise<ToSeal | "sealed" | "incomplete"> {
  const { repo, practice } = ctx;
  const found = await repo.packets.part(practice.id, partId);
  const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
  if (!found || !client) return "incomplete";
  const { packet } = found;
  const one = (await signingParts(ctx, packet, client)).find((p) => p.part.id === partId);
  if (!one?.complete) return "incomplete";
  const signatures = one.valid;
  const papers = await repo.sealedPapers.ofPart(partId);
  const last = papers.at(-1);
  const isOn = ({ id }: Signature): boolean => last?.signatures.includes(id) === true;
  const goesOn = last && last.signatures.every((id) => signatures.some((s) => s.id === id)) ? last : undefined;
  if (goesOn && signatures.every(isOn)) return "sealed";
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
    sheet: goesOn ? undefined : sheetToSign(ctx, one, signatures),
    paper: goesOn
      ? { later: shared }
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

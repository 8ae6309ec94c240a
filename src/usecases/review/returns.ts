import { object } from "yup";
import { foldChart, incomingOf, nameOf, valueOn, type Chart, type Incoming } from "../../core/chart";
import { writeResponse, type JsonObject } from "../../core/fhir";
import { quotable, type QuotedAnswer } from "../../core/notes";
import { isOpen, packetStateWords, stateAt, type PacketState } from "../../core/packet";
import {
  allItems,
  dateWords,
  isQuestion,
  plainWords,
  type Answers,
  type AnswerWords,
  type Display,
  type Questionnaire,
  type QuestionnaireKind,
  type Signer,
} from "../../core/questionnaire";
import { alertsOf, gistOf, scoresOf, type Alert, type Gist, type Score } from "../../core/scoring";
import { canonicalText, type PlaceStanding, type SignatureMark, type SignedStatement } from "../../core/signing";
import { instantMs, isBefore, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Paper } from "../../adapters/paper";
import { ageFor, signedPart } from "../signing/standing";
import { readersFor } from "./readers";
import { linkHolders, peopleOf, unreachedLines, type UnreachedLine } from "../sending";
import type { Client, MarginNote, Packet, Part, Relation, Signature, Visit } from "../../db/repositories";
import {
  command,
  fieldsOf,
  idInput,
  inOrder,
  instantInput,
  notFound,
  plansOf,
  query,
  type CommonError,
  type Context,
  type StaffActor,
  letterhead,
} from "../kit";
import { alertLines, type AlertLine } from "../measures/alerts";

export interface ReturnLine {
  readonly packetId: Id<"Packet">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly state: PacketState;
  readonly stateWords: string;
  readonly returnedAt: Instant;
  readonly visitAt: Instant | undefined;
  readonly visitType: string | undefined;
  readonly titles: readonly string[];
  readonly kinds: readonly QuestionnaireKind[];
  /** Whoever looks reads and charts it. */
  readonly mine: boolean;
  /** Somebody was asked to sign and has not. */
  readonly waitsForSignature: boolean;
  readonly scores: readonly Score[];
  readonly alerts: readonly Alert[];
}

/** Fully read parts of a returned packet. */
export interface ReadPart {
  readonly part: Part;
  readonly questionnaire: Questionnaire;
  readonly answers: Answers;
  /** Those that stand, in the order they were given. */
  readonly signatures: readonly Signature[];
  readonly places: readonly PlaceStanding[];
}
export async function readParts(ctx: Context, packetId: Id<"Packet">): Promise<ReadPart[]> {
  const { repo, practice } = ctx;
  const packet = await repo.packets.byId(practice.id, packetId);
  const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
  const age = client && ageFor(ctx, client, packet);
  return inOrder(await repo.packets.parts(packetId), async (part) => {
    const questionnaire = await repo.versions.definition(part.versionId);
    const answers = await repo.answers.ofPart(part.id);
    const { valid, standing } = await signedPart(ctx, part, questionnaire, answers, age);
    return { part, questionnaire, answers, places: standing, signatures: valid };
  });
}
/** How answers read to staff: in the practice's locale. */
export const staffWords = (locale: string): AnswerWords => ({ ...plainWords, locale });
export const isReturned = (packet: Packet): boolean => packet.state === "returned" || packet.state === "settled";

export interface ReturnsView {
  readonly lines: readonly ReturnLine[];
  /** What nobody opened, since the letter did not arrive. */
  readonly unreached: readonly UnreachedLine[];
  /** How many are to be read, on whichever page one is; the test client's are not counted. */
  readonly toRead: number;
  /** So many of them stand on no page yet. */
  readonly moreToRead: number;
  /** Alerts over what was settled, and nobody wrote yet what was done; the oldest first. */
  readonly openAlerts: readonly AlertLine[];
  /** From when on earlier settled ones go on; undefined where these are all. */
  readonly earlier: Instant | undefined;
}
const mostToRead = 60;
const mostSettled = 20;
/**
 * Returned packets: what needs reading before what is settled, and alarming ones before all. Scores and alerts are read
 * as they were kept when it came back. @param before settled ones that came back earlier alone
 */
export const returns = query({
  name: "returns",
  access: "answers.read",
  input: object({ before: instantInput.optional() }),
  async run(ctx, { before }): Promise<Result<ReturnsView, never>> {
    const { repo, practice } = ctx;
    const toRead = before === undefined ? await repo.packets.toRead(practice.id) : [];
    const settled = await repo.packets.settled(practice.id, mostSettled + 1, before);
    const sentBack = before === undefined ? await repo.packets.sentBack(practice.id, mostToRead) : [];
    const packets = [...toRead.slice(0, mostToRead), ...sentBack, ...settled.slice(0, mostSettled)];
    ctx.journal("returns.view", "practice");
    return ok({
      unreached: before === undefined ? await unreachedLines(ctx) : [],
      lines: await linesOf(ctx, packets),
      toRead: await repo.packets.countReturned(practice.id),
      moreToRead: Math.max(0, toRead.length - mostToRead),
      openAlerts: before === undefined ? await alertsBesides(ctx, toRead) : [],
      earlier: settled.length > mostSettled ? (settled[mostSettled - 1]!.returnedAt ?? undefined) : undefined,
    });
  },
});
/** What alarms among the returns to be read stands there already. */
async function alertsBesides(ctx: Context<StaffActor>, toRead: readonly Packet[]): Promise<AlertLine[]> {
  const read = new Set(toRead.map(({ id }) => id));
  return (await alertLines(ctx)).filter(({ packetId }) => !read.has(packetId));
}
async function linesOf(ctx: Context<StaffActor>, packets: readonly Packet[]): Promise<ReturnLine[]> {
  const { repo, practice, now, actor } = ctx;
  const clients = await repo.clients.byIds(
    practice.id,
    packets.map((p) => p.clientId),
  );
  const visits = await repo.visits.byIds(
    practice.id,
    packets.flatMap((p) => p.visitId ?? []),
  );
  const parts = await repo.packets.partsOf(packets.map((p) => p.id));
  const asked = await repo.signers.placesOf([...parts.values()].flat().map((part) => part.id));
  const unsigned = new Set(
    asked.filter((place) => place.askedAt && !place.endedAt && !place.declinedAt).map((place) => place.partId),
  );
  return inOrder(packets, async (packet): Promise<ReturnLine> => {
    const own = parts.get(packet.id) ?? [];
    const client = clients.get(packet.clientId);
    const visit = packet.visitId ? visits.get(packet.visitId) : undefined;
    const state = stateAt(packet.state, packet.expiresAt, now);
    const definitions = await inOrder(own, (part) => repo.versions.definition(part.versionId));
    const gists = await inOrder(own, async (part) => repo.packets.gistOf<Gist>(part) ?? (await gistAnew(ctx, part)));
    return {
      packetId: packet.id,
      clientId: packet.clientId,
      clientName: client ? nameOf(client) : "",
      state,
      stateWords: packetStateWords[state],
      returnedAt: packet.returnedAt ?? packet.createdAt,
      visitAt: visit?.startsAt,
      visitType: visit?.visitType,
      titles: definitions.map(({ title }) => title),
      kinds: definitions.map(({ kind }) => kind),
      mine: packet.staffId === actor.id,
      waitsForSignature: own.some((part) => unsigned.has(part.id)),
      // Of what is being mended nothing stands yet.
      scores: state === "sent-back" ? [] : gists.flatMap(({ scores }) => scores),
      alerts: state === "sent-back" ? [] : gists.flatMap(({ alerts }) => alerts),
    };
  });
}
/** Of what came back before gists were kept. */
const gistAnew = async ({ repo }: Context, part: Part): Promise<Gist> =>
  gistOf(await repo.versions.definition(part.versionId), await repo.answers.ofPart(part.id));

export interface ReturnedPartView {
  readonly partId: Id<"Part">;
  readonly title: string;
  readonly kind: QuestionnaireKind;
  /** A worksheet whose answers are written into its PDF. */
  readonly sheet: boolean;
  readonly lines: readonly QuotedAnswer[];
  /** What the chart holds where an answer would be posted, by the answer's key. */
  readonly onFile: Readonly<Record<string, string>>;
  /** What they answered the last time they returned the same questionnaire, where that was something else. */
  readonly before: { readonly at: Instant; readonly answers: Readonly<Record<string, string>> } | undefined;
  /** Remarks of staff's, by the answer's key. */
  readonly remarks: Readonly<Record<string, readonly Remark[]>>;
  /** Who gave an answer, by its key, where several people filled it in. */
  readonly by: Readonly<Record<string, string>>;
  readonly scores: readonly Score[];
  readonly alerts: readonly Alert[];
  readonly signatures: readonly {
    readonly signer: string;
    readonly at: Instant;
    readonly address: string;
    readonly device: string;
    readonly digest: string;
    readonly intent: string;
    readonly mark: SignatureMark;
    /** Whose place it is, where the questionnaire says. */
    readonly placeOf: Signer | undefined;
  }[];
  /** Places that were shown and stand unsigned, since nobody they are for filled it in. */
  readonly unsigned: readonly { readonly text: string; readonly placeOf: Signer | undefined }[];
  readonly postedAt: Instant | null;
}
export interface Remark {
  readonly id: Id<"MarginNote">;
  readonly by: string;
  readonly at: Instant;
  readonly text: string;
  /** Whoever looks wrote it. */
  readonly own: boolean;
}
export interface ReturnView {
  /** Whose it is to read and to chart, and who else could. */
  readonly staff: { readonly id: Id<"Staff">; readonly name: string };
  readonly colleagues: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  /** What is to be read before and after it, in the tray's order. */
  readonly beside: { readonly before: Id<"Packet"> | undefined; readonly next: Id<"Packet"> | undefined };
  readonly packetId: Id<"Packet">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly filledBy: string;
  /** A letter can go to somebody who has it. */
  readonly reachable: boolean;
  /** It is still in the client's hands: what stands here may change, and nothing is done with it yet. */
  readonly underWay: boolean;
  readonly state: PacketState;
  readonly stateWords: string;
  readonly returnedAt: Instant;
  readonly returnedFrom: string;
  readonly visit:
    | {
        readonly id: Id<"Visit">;
        readonly startsAt: Instant;
        readonly visitType: string;
        readonly practitioner: string;
      }
    | undefined;
  readonly parts: readonly ReturnedPartView[];
  /** What they added when returning it. */
  readonly comment: string | undefined;
  /** What was raised over it: open, or with what was done. */
  readonly raised: readonly AlertLine[];
}

/** One returned packet, read whole. */
export const returnView = query({
  name: "return-view",
  access: "answers.read",
  input: object({ packetId: idInput<"Packet">() }),
  async run(ctx, { packetId }): Promise<Result<ReturnView, CommonError>> {
    const frame = await returnFrame(ctx, packetId, false, (await ctx.repo.practices.pages(ctx.practice.id)).look);
    if (!frame.ok) return frame;
    const { packet, client, relation, visit } = frame.value;
    const underWay = !isReturned(packet);
    const parts = await readParts(ctx, packetId);
    const chart = foldChart(await ctx.repo.charts.entries(client.id));
    const fields = await fieldsOf(ctx);
    const plans = await plansOf(ctx);
    ctx.journal(underWay ? "return.look" : "return.view", `packet:${packetId}`);
    const remarks = await ctx.repo.marginNotes.ofParts(parts.map(({ part }) => part.id));
    const staff = await ctx.repo.staff.all(ctx.practice.id);
    const people = await peopleOf(ctx, packet, client);
    const several = people.length > 1;
    const state = stateAt(packet.state, packet.expiresAt, ctx.now);
    return ok({
      packetId,
      raised: (await alertLines(ctx, [client.id])).filter((one) => one.packetId === packetId),
      staff: { id: packet.staffId, name: staff.find((one) => one.id === packet.staffId)?.name ?? "" },
      colleagues: (await readersFor(ctx, client.id)).filter(({ id }) => id !== packet.staffId),
      beside: await besideInTray(ctx, packetId),
      underWay,
      clientId: client.id,
      clientName: nameOf(client),
      filledBy: relation ? `${nameOf(relation)}, ${relation.kind}` : nameOf(client),
      reachable: (await linkHolders(ctx, packet, client, people)).some((p) => p.recipient.contact),
      state,
      stateWords: packetStateWords[state],
      returnedAt: packet.returnedAt ?? packet.createdAt,
      returnedFrom: packet.returnedFrom ?? "",
      visit: visit && {
        id: visit.id,
        startsAt: visit.startsAt,
        visitType: visit.visitType,
        practitioner: visit.staffName,
      },
      comment: ctx.repo.packets.unseal<string>(packet, "comment"),
      parts: await inOrder(parts, async (read) => ({
        by: several
          ? Object.fromEntries(
              (await ctx.repo.answers.kept(read.part.id)).flatMap(({ change, by }) => {
                const person = people.find((p) => by && p.links.includes(by));
                return change.kind === "values" && person ? [[change.key, person.name]] : [];
              }),
            )
          : {},
        partId: read.part.id,
        before: underWay ? undefined : await answeredBefore(ctx, packet, read),
        remarks: remarksBy(remarks, read.part.id, ctx.actor.id),
        title: read.questionnaire.title,
        kind: read.questionnaire.kind,
        sheet: allItems(read.questionnaire).some((i) => isQuestion(i) && i.sheetField !== undefined),
        lines: quotable(
          { partId: read.part.id, questionnaire: read.questionnaire, answers: read.answers },
          staffWords(ctx.practice.locale),
        ),
        onFile: onFileFor(
          chart,
          incomingOf(
            plans(await ctx.repo.versions.questionnaireOf(read.part.versionId), read.questionnaire).questionnaire,
            read.answers,
            fields,
          ),
        ),
        scores: scoresOf(read.questionnaire, read.answers),
        alerts: alertsOf(read.questionnaire, read.answers),
        signatures: read.signatures.map((signature) => ({
          signer: signature.statement.signer,
          at: signature.at,
          address: signature.address,
          device: signature.device,
          digest: signature.digest,
          intent: signature.statement.intent,
          mark: signature.statement.mark,
          placeOf: placeAt(read.questionnaire, signature.place)?.signer,
        })),
        unsigned: read.places
          .filter((one) => !one.signed)
          .map(({ place }) => {
            const item = placeAt(read.questionnaire, place);
            return { text: item?.text ?? "", placeOf: item?.signer };
          }),
        postedAt: read.part.postedAt,
      })),
    });
  },
});

function remarksBy(
  all: readonly MarginNote[],
  partId: Id<"Part">,
  actor: Id<"Staff">,
): Readonly<Record<string, readonly Remark[]>> {
  const out: Record<string, Remark[]> = {};
  for (const { id, key, by, at, text, partId: of, staffId } of all)
    if (of === partId) (out[key] ??= []).push({ id, by, at, text, own: staffId === actor });
  return out;
}
/** Of one that is settled by now, the first that is still to be read comes next. */
async function besideInTray({ repo, practice }: Context, packetId: Id<"Packet">): Promise<ReturnView["beside"]> {
  const tray = (await repo.packets.toRead(practice.id)).map((one) => one.id);
  const at = tray.indexOf(packetId);
  return { before: tray[at - 1], next: tray[at + 1] };
}
const mostLookedInto = 30;
/** What was answered otherwise in the last return of the same questionnaire, by the answer's key. */
async function answeredBefore(
  ctx: Context,
  packet: Packet,
  { part, questionnaire, answers }: ReadPart,
): Promise<ReturnedPartView["before"]> {
  const { repo, practice } = ctx;
  const id = await repo.versions.questionnaireOf(part.versionId);
  const earlier = (await repo.packets.ofClient(practice.id, packet.clientId))
    .filter((one) => isReturned(one) && one.id !== packet.id && one.returnedAt && packet.returnedAt)
    .filter((one) => isBefore(one.returnedAt!, packet.returnedAt!))
    .sort((one, other) => instantMs(other.returnedAt!) - instantMs(one.returnedAt!))
    // Further back it is no news any more, and each is looked into.
    .slice(0, mostLookedInto);
  for (const one of earlier)
    for (const other of await repo.packets.parts(one.id)) {
      if ((await repo.versions.questionnaireOf(other.versionId)) !== id) continue;
      const words = staffWords(practice.locale);
      const said = (partId: Id<"Part">, of: Questionnaire, given: Answers) =>
        new Map(quotable({ partId, questionnaire: of, answers: given }, words).map((line) => [line.key, line.answer]));
      const then = said(other.id, await repo.versions.definition(other.versionId), await repo.answers.ofPart(other.id));
      const now = said(part.id, questionnaire, answers);
      return {
        at: one.returnedAt!,
        answers: Object.fromEntries([...then].filter(([key, answer]) => now.has(key) && now.get(key) !== answer)),
      };
    }
  return undefined;
}

const placeAt = (questionnaire: Questionnaire, place: string): Display | undefined => {
  const item = allItems(questionnaire).find((i) => place !== "" && i.linkId === place);
  return item?.type === "display" ? item : undefined;
};

/** Single values on file, by the key of the answer that would be posted beside them; lists are for Reconcile. */
const onFileFor = (chart: Chart, incoming: readonly Incoming[]): Record<string, string> =>
  Object.fromEntries(
    incoming.flatMap((one) => {
      const value = one.kind === "value" ? valueOn(chart, one.field.key) : undefined;
      return value ? [[one.key, value]] : [];
    }),
  );

/**
 * A returned packet with the people around it; not-found for one that is not returned. @param early one that can still
 * be answered too.
 */
export async function returnFrame(ctx: Context, packetId: Id<"Packet">, forUpdate = false, early = false) {
  const { repo, practice } = ctx;
  const packet = await repo.packets.byId(practice.id, packetId, forUpdate);
  const client =
    packet && (isReturned(packet) || (early && isOpen(packet.state)))
      ? await repo.clients.byId(practice.id, packet.clientId)
      : undefined;
  if (!packet || !client) return notFound;
  const relation = packet.relationId
    ? (await repo.relations.ofClient(client.id)).find((r) => r.id === packet.relationId)
    : undefined;
  const visit = packet.visitId ? await repo.visits.byId(practice.id, packet.visitId) : undefined;
  return ok({ packet, client, relation, visit });
}

/** Whose part it is, and in which packet. */
export interface TakeOutFrame {
  readonly packet: Packet;
  readonly client: Client;
  readonly relation: Relation | undefined;
  readonly visit: Visit | undefined;
}
/** One part of a returned packet for leaving the practice, journalled as an export. */
export const exportPart = command({
  name: "export-part",
  access: "export",
  input: object({ partId: idInput<"Part">() }),
  async run(ctx, { partId }): Promise<Result<{ fhir: JsonObject; paper: Paper }, CommonError>> {
    const found = await ctx.repo.packets.part(ctx.practice.id, partId);
    const frame = found && (await returnFrame(ctx, found.packet.id));
    if (!frame?.ok) return notFound;
    const { packet } = frame.value;
    const part = (await readParts(ctx, packet.id)).find((r) => r.part.id === partId);
    if (!part) return notFound;
    ctx.journal("response.export", `packet:${packet.id}`, { part: partId });
    return ok(await partToTakeOut(ctx, frame.value, part));
  },
});
/** One part as FHIR and as paper. */
export async function partToTakeOut(
  ctx: Context<StaffActor>,
  { packet, client, relation, visit }: TakeOutFrame,
  part: ReadPart,
): Promise<{ readonly fhir: JsonObject; readonly paper: Paper }> {
  const { questionnaire, answers } = part;
  const partId = part.part.id;
  const signatures = part.signatures;
  const person = { id: client.id as string, name: nameOf(client) };
  return {
    fhir: writeResponse(questionnaire, answers, {
      id: partId,
      client: person,
      authored: packet.returnedAt ?? packet.createdAt,
      status: isReturned(packet) ? "completed" : "in-progress",
      ...(relation ? { relation: { id: relation.id, name: nameOf(relation) } } : {}),
      signatures: signatures.map((s) => ({ statement: s.statement, data: toBase64(canonicalText(s.statement)) })),
    }),
    paper: {
      ...(await letterhead(ctx)),
      zone: ctx.practice.zone,
      locale: ctx.practice.locale,
      title: questionnaire.title,
      version: questionnaire.version,
      client: person.name,
      birthDate: client.birthDate && dateWords(client.birthDate, ctx.practice.locale),
      filledBy: relation ? `${nameOf(relation)} (${relation.kind})` : person.name,
      visit: visit && { at: visit.startsAt, type: visit.visitType, practitioner: visit.staffName },
      returnedAt: packet.returnedAt ?? packet.createdAt,
      returnedFrom: packet.returnedFrom ?? "",
      reference: partId,
      madeAt: ctx.now,
      madeBy: ctx.actor.name,
      texts: displayTexts(questionnaire),
      lines: quotable({ partId, questionnaire, answers }, staffWords(ctx.practice.locale)),
      scores: scoresOf(questionnaire, answers),
      signatures,
      signedWords: signatures[0] ? wordsSigned(questionnaire, signatures[0].statement) : [],
    },
  };
}
function wordsSigned(questionnaire: Questionnaire, { texts }: SignedStatement): string[] {
  const here = new Map(allItems(questionnaire).map((i) => [i.linkId, i.text]));
  return texts.some((t) => here.get(t.linkId) !== t.text) ? texts.map((t) => t.text).filter((t) => t !== "") : [];
}
const toBase64 = (text: string): string => Buffer.from(text, "utf8").toString("base64");

function displayTexts(questionnaire: Questionnaire): string[] {
  const out: string[] = [];
  const visit = (items: Questionnaire["items"]): void =>
    items.forEach((i) => (i.type === "display" ? void (i.signature || out.push(i.text)) : visit(i.items)));
  visit(questionnaire.items);
  return out;
}

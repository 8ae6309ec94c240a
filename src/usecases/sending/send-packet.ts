import { array, boolean, mixed, object, string, type InferType } from "yup";
import { foldChart, nameOf, prefillFrom } from "../../core/chart";
import { maskContact } from "../../core/messages";
import {
  doorWays,
  copyRoles,
  stateAt,
  type DoorPerson,
  type DoorPolicy,
  type DoorWay,
  type CopyRole,
  type PacketState,
  type StandingLine,
} from "../../core/packet";
import {
  canAlarm,
  languagesOf,
  mostSignaturePlaces,
  readChange,
  sourceLanguage,
  type QuestionnaireKind,
  type Signer,
} from "../../core/questionnaire";
import { fail, isLanguageTag, ok, type Id, type Instant, type Result, mainLanguage } from "../../core/shared";
import { isDay, type Day } from "../../core/scheduling";
import type { Client, Packet } from "../../db/repositories";
import {
  command,
  fieldsOf,
  idInput,
  inOrder,
  libraryRight,
  notFound,
  plansOf,
  query,
  questionnaireFor,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";
import { isSigned, signersOf } from "../../core/signing";
import { placesToChoose, type PlaceToChoose } from "../signing/choose-signer";
import { beginWithChart } from "./begin-with-chart";
import { putSigners, signerInput, signersChosen, type SignerInput } from "./send-signers";
import { linkHolders } from "./people";
import { doorPerson, recipientFor, type Recipient } from "./recipient";
import { endOf, issueLink, targetInput, targetOf, targetOfPacket, usualExpiry, type Target } from "./target";

export interface SendOptions {
  readonly visit:
    | {
        readonly id: Id<"Visit">;
        readonly startsAt: Instant;
        readonly visitType: string;
        readonly practitioner: string;
      }
    | undefined;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly recipient: Omit<Recipient, "contact" | "email" | "phone" | "ended"> & {
    readonly channel: "email" | "text" | undefined;
    readonly masked: string | undefined;
    /** With contacts masked: which door applies is worked out beside what is chosen. */
    readonly atDoor: DoorPerson;
  };
  /** The last day it can be opened, unless another is chosen. */
  readonly expiresOn: Day;
  /** Of the client, then of the practice. */
  readonly languages: readonly string[];
  /** How the practice's door is opened, unless another way is chosen. */
  readonly door: DoorPolicy;
  /** In these the words for somebody in danger are written. */
  readonly supportIn: readonly string[];
  /** Somebody confirmed that electronic signatures are accepted where the practice files them. */
  readonly signingConfirmed: boolean;
  readonly questionnaires: readonly {
    readonly id: Id<"Questionnaire">;
    readonly title: string;
    readonly kind: QuestionnaireKind;
    readonly description: string;
    readonly usual: boolean;
    readonly languages: readonly string[];
    /** An answer of it can alarm. */
    readonly alarms: boolean;
    /** Who is asked to sign by name. */
    readonly signers: readonly Signer[];
    readonly signed: boolean;
    /** Places for which nobody is known beforehand. */
    readonly chooses: readonly PlaceToChoose[];
    /** How many of its questions the chart could answer. */
    readonly onFile: number;
  }[];
  /** Others of the client's, who may get a copy: relations, and the client where somebody else gets it first. */
  readonly others: readonly {
    readonly relationId: Id<"Relation"> | null;
    readonly name: string;
    readonly kind: string;
    readonly channel: "email" | "text" | undefined;
    readonly masked: string | undefined;
    readonly atDoor: DoorPerson;
  }[];
  readonly leaflets: readonly { readonly id: Id<"Leaflet">; readonly title: string }[];
  /** Who may be asked to sign, of the practice. */
  readonly staff: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  /** Those for this kind of visit first. */
  readonly standing: readonly {
    readonly id: Id<"StandingPacket">;
    readonly title: string;
    readonly questionnaires: readonly StandingLine[];
    readonly leaflets: readonly Id<"Leaflet">[];
    readonly forThis: boolean;
  }[];
  readonly earlier: readonly { readonly id: Id<"Packet">; readonly state: PacketState; readonly createdAt: Instant }[];
}

/** Before anything was sent, this many are taken for what is meant to be sent; of more, the person chooses. */
const mostAtFirst = 3;

/** What can be sent to somebody, to whom it would go, and what would happen. */
export const sendOptions = query({
  name: "send-options",
  access: "packet.send",
  input: targetInput,
  async run(ctx, input): Promise<Result<SendOptions, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    const target = await targetOf(ctx, input);
    if (!target.ok) return target;
    const { client, visit } = target.value;
    const { contact, email, phone, ended: _ended, ...recipient } = await recipientFor(ctx, client);
    const policy = await repo.practices.door(practice.id);
    const inUse = (await repo.questionnaires.all(practice.id, actor.id)).filter(
      (q) => q.state === "active" && libraryRight(actor, q) !== "none",
    );
    const order: QuestionnaireKind[] = ["intake", "consent", "measure", "worksheet"];
    // Without a visit, whoever never got anything gets what somebody new was last asked.
    const isNew = !visit && (await repo.packets.ofClient(practice.id, client.id)).length === 0;
    const usualOf = (): Promise<Id<"Questionnaire">[]> | Id<"Questionnaire">[] => {
      if (visit) return repo.packets.lastAskedFor(practice.id, visit.visitTypeId);
      return isNew ? repo.packets.lastAskedOfNew(practice.id) : [];
    };
    const usual = await usualOf();
    inUse.sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || a.title.localeCompare(b.title));
    const chart = foldChart(await repo.charts.entries(client.id));
    const fields = await fieldsOf(ctx);
    const plans = await plansOf(ctx);
    const earlier = visit ? await repo.packets.ofVisits([visit.id]) : [];
    const around = (await repo.relations.ofClient(client.id)).filter((r) => !r.ended).map((r) => r.kind);
    return ok({
      visit: visit && {
        id: visit.id,
        startsAt: visit.startsAt,
        visitType: visit.visitType,
        practitioner: visit.staffName,
      },
      clientId: client.id,
      clientName: nameOf(client),
      recipient: {
        ...recipient,
        channel: contact?.channel,
        masked: contact?.masked,
        atDoor: masked(await doorPerson(ctx, policy, client, { contact, email, phone })),
      },
      door: policy,
      signingConfirmed: practice.signing.confirmed !== undefined,
      supportIn: Object.keys((await repo.practices.pages(practice.id)).support ?? {}),
      expiresOn: usualExpiry(ctx),
      languages: [...new Set([client.language, mainLanguage(practice.locale), ...practice.languages])],
      questionnaires: await inOrder(inUse, async (glance) => {
        const definition = await repo.versions.definition(glance.inUse!);
        return {
          id: glance.id,
          title: glance.title,
          kind: glance.kind,
          usual:
            (visit !== undefined || isNew) &&
            (usual.length === 0 ? inUse.length <= mostAtFirst : usual.includes(glance.id)),
          description: definition.description ?? "",
          languages: [sourceLanguage(definition), ...languagesOf(definition)],
          alarms: canAlarm(definition),
          signers: signersOf(definition),
          signed: isSigned(definition),
          chooses: placesToChoose(definition, around),
          onFile: prefillFrom(plans(glance.id, definition).questionnaire, chart, fields).filter(
            (c) => c.kind === "values",
          ).length,
        };
      }),
      others: await othersOf(ctx, client, recipient.relationId),
      leaflets: (await repo.leaflets.all(practice.id))
        .filter((l) => !l.retiredAt)
        .map(({ id, title }) => ({ id, title })),
      staff: (await repo.staff.all(practice.id)).filter((s) => s.active).map(({ id, name }) => ({ id, name })),
      standing: (await repo.standing.all(practice.id))
        .map(({ id, title, questionnaires, leaflets, visitTypes }) => ({
          id,
          title,
          questionnaires,
          leaflets,
          forThis: visit !== undefined && visitTypes.includes(visit.visitTypeId),
        }))
        .sort((a, b) => Number(b.forThis) - Number(a.forThis)),
      earlier: earlier.map((p) => ({ id: p.id, state: stateAt(p.state, p.expiresAt, now), createdAt: p.createdAt })),
    });
  },
});

/** Everybody around a client who could get a link besides who gets it first. */
export async function othersOf(
  ctx: Context,
  client: Client,
  first: Id<"Relation"> | undefined,
): Promise<SendOptions["others"]> {
  const relations = (await ctx.repo.relations.ofClient(client.id)).filter((r) => !r.ended);
  const policy = await ctx.repo.practices.door(ctx.practice.id);
  return inOrder(
    [...(first ? [null] : []), ...relations.map((r) => r.id).filter((id) => id !== first)],
    async (relationId) => {
      const { name, contact, email, phone } = await recipientFor(ctx, client, relationId);
      return {
        relationId,
        name,
        kind: relations.find((r) => r.id === relationId)?.kind ?? "client",
        channel: contact?.channel,
        masked: contact?.masked,
        atDoor: masked(await doorPerson(ctx, policy, client, { contact, email, phone })),
      };
    },
  );
}
/** The same with its contacts as they are shown to staff. */
const masked = ({ email, phone, contact, details }: DoorPerson): DoorPerson => ({
  details,
  email: email && maskContact("email", email),
  phone: phone && maskContact("text", phone),
  contact: contact && { channel: contact.channel, to: maskContact(contact.channel, contact.to) },
});

const chosen = array(idInput<"Questionnaire">()).min(1, "Choose at least one questionnaire.").max(20).required();
export const languageInput = string()
  .max(35)
  .optional()
  .test("language", "Choose a language.", (tag) => tag === undefined || isLanguageTag(tag));
const doorInput = mixed<DoorWay>()
  .oneOf([...doorWays])
  .optional();
const lineInput = string().trim().max(500, "Keep the line under 500 characters.").optional();
/** What is sent and how, whoever gets it. */
export const wishesSchema = object({
  questionnaireIds: chosen,
  /** Those of them to begin with what is on file. */
  prefillIds: array(idInput<"Questionnaire">()).max(20).default([]),
  expiresOn: string().max(10).optional(),
  dueOn: string()
    .optional()
    .test("day", "Choose a day.", (d) => d === undefined || isDay(d)),
  line: lineInput,
  door: doorInput,
  leafletIds: array(idInput<"Leaflet">()).max(20).default([]),
  /** The same link asks anew each session. */
  repeats: boolean().default(false),
});
export type Wishes = InferType<typeof wishesSchema>;
/** Somebody besides who gets it first: a relation, or null for the client. */
const personInput = object({
  relationId: mixed<Id<"Relation">>((v): v is Id<"Relation"> => typeof v === "string")
    .nullable()
    .defined(),
  role: mixed<CopyRole>()
    .oneOf([...copyRoles])
    .required(),
});
const sendPacketSchema = targetInput.concat(wishesSchema).concat(
  object({
    requestId: requestInput,
    language: languageInput,
    people: array(personInput.required()).max(6).default([]),
    /** Who signs at places for which nobody is known beforehand; whoever is left out is chosen once it is back. */
    signers: array(signerInput.required()).max(mostSignaturePlaces).default([]),
    /** `link`: no letter goes out; a link is copied or read out later. */
    by: mixed<"letter" | "link">().oneOf(["letter", "link"]).default("letter"),
  }),
);
export type SendError =
  | CommonError
  | { readonly reason: "no-contact" }
  | { readonly reason: "not-in-use" }
  /** Nobody confirmed yet that electronic signatures are accepted where the practice files them. */
  | { readonly reason: "confirm-signing" }
  | { readonly reason: "nobody-there" }
  /** Somebody is to sign who is not there, or a place that nobody chooses for. */
  | { readonly reason: "no-signer" };

/**
 * Makes the packet, its personal links and their letters in one go. The same request again finds the packet it made.
 */
export const sendPacket = command({
  name: "send-packet",
  access: "packet.send",
  input: sendPacketSchema,
  async run(
    ctx,
    { requestId, visitId, clientId, language, people, signers, by, ...wishes },
  ): Promise<Result<{ packetId: Id<"Packet"> }, SendError>> {
    const found = await targetOf(ctx, { visitId, clientId });
    return found.ok ? sendOne(ctx, requestId, found.value, wishes, { language, people, signers, by }) : found;
  },
});

interface ForOne {
  readonly language?: string | undefined;
  readonly people?: readonly { readonly relationId: Id<"Relation"> | null; readonly role: CopyRole }[];
  readonly signers?: readonly SignerInput[];
  readonly by?: "letter" | "link";
  readonly likeLast?: Packet;
}
/** One packet to one client and whoever fills it in with them. The same request again finds the packet it made. */
export async function sendOne(
  ctx: Context<StaffActor>,
  requestId: string,
  target: Target,
  wishes: Wishes,
  { language, people = [], signers = [], by = "letter", likeLast }: ForOne = {},
): Promise<Result<{ packetId: Id<"Packet"> }, SendError>> {
  const { repo, practice, now, random } = ctx;
  const { client, visit, staffId } = target;
  const { questionnaireIds, prefillIds, expiresOn, dueOn, line, door, leafletIds, repeats } = wishes;
  const recipient = await recipientFor(ctx, client, undefined, language);
  if (by === "letter" && !recipient.contact) return fail({ reason: "no-contact" });
  const others = await inOrder(
    people.filter((p) => p.relationId !== (recipient.relationId ?? null)),
    async ({ relationId, role }) => ({
      role,
      relationId,
      recipient: await recipientFor(ctx, client, relationId, language),
    }),
  );
  if (others.some((o) => (o.recipient.relationId ?? null) !== o.relationId || o.recipient.ended))
    return fail({ reason: "nobody-there" });
  if (others.some((o) => !o.recipient.contact)) return fail({ reason: "no-contact" });
  const expiry = endOf(ctx, expiresOn ?? usualExpiry(ctx));
  if (!expiry.ok) return expiry;
  const asked = await versionsOf(ctx, questionnaireIds);
  if (!asked.ok) return asked;
  const leaflets = (await repo.leaflets.all(practice.id))
    .filter((l) => leafletIds.includes(l.id) && !l.retiredAt)
    .map((l) => l.id);
  if (leaflets.length < new Set(leafletIds).size) return notFound;
  const chosenSigners = await signersChosen(ctx, client, asked.value, signers);
  if (!chosenSigners.ok) return chosenSigners;

  const packetId = random.id<"Packet">();
  const expiresAt = expiry.value;
  const parts = asked.value.map(({ id, versionId }, position) => ({
    id: random.id<"Part">(),
    packetId,
    versionId,
    position,
    prefill: likeLast !== undefined || prefillIds.includes(id),
  }));
  const fresh = await repo.packets.add(
    {
      id: packetId,
      practiceId: practice.id,
      requestId,
      clientId: client.id,
      relationId: recipient.relationId ?? null,
      visitId: visit?.id ?? null,
      repeats,
      leaflets,
      staffId,
      state: by === "link" ? "ready" : "sent",
      createdAt: now,
      sentAt: by === "link" ? null : now,
      expiresAt,
      dueOn: dueOn ?? null,
      language: language ?? null,
      door: door ?? null,
      personalLine: line,
    },
    parts,
  );
  if (!fresh) {
    const first = await repo.packets.byRequest(requestId);
    ctx.journal("packet.send-repeated", `packet:${first?.id ?? ""}`);
    return first ? ok({ packetId: first.id }) : notFound;
  }
  await putSigners(ctx, packetId, parts, chosenSigners.value);
  if (likeLast) await beginLike(ctx, likeLast, parts);
  else await beginWithChart(ctx, client.id, parts);
  const linked = { id: packetId, expiresAt, language: language ?? null, leaflets, door: door ?? null };
  if (by === "letter") await issueLink(ctx, linked, recipient, target, "packet", { line });
  for (const other of others)
    await issueLink(ctx, linked, other.recipient, target, "packet", { role: other.role, line });
  ctx.journal("packet.send", `packet:${packetId}`, {
    questionnaires: parts.length,
    by: by === "link" ? "link" : recipient.contact!.channel,
    ...(others.length > 0 ? { people: others.length + 1 } : {}),
    ...(signers.length > 0 ? { signers: signers.length } : {}),
    ...(repeats ? { repeats } : {}),
    ...(door ? { door } : {}),
  });
  return ok({ packetId });
}

/**
 * Begins parts with what was answered in an earlier packet, to be said right or changed. What a measure or a consent
 * asks is asked anew: the one is about now, the other is agreed to each time. So is what the questionnaire no longer
 * takes, and files.
 */
async function beginLike(
  { repo, now }: Context,
  last: Packet,
  parts: readonly { readonly id: Id<"Part">; readonly versionId: Id<"Version"> }[],
): Promise<void> {
  const before = await inOrder(await repo.packets.parts(last.id), async (part) => ({
    part,
    questionnaireId: await repo.versions.questionnaireOf(part.versionId),
  }));
  for (const { id, versionId } of parts) {
    const questionnaire = await repo.versions.definition(versionId);
    const questionnaireId = await repo.versions.questionnaireOf(versionId);
    const same = before.find((b) => b.questionnaireId === questionnaireId);
    if (!same || questionnaire.kind === "measure" || questionnaire.kind === "consent") continue;
    const changes = (await repo.answers.kept(same.part.id))
      .map((k) => k.change)
      .filter(
        (c) =>
          readChange(questionnaire, c).ok &&
          (c.kind === "rows" || (c.values.length > 0 && c.values.every((v) => v.type !== "attachment"))),
      );
    if (changes.length > 0) await repo.answers.prefill(id, changes, now);
  }
}

/** A new packet with what a returned one asked, on the versions in use by now, begun with its answers. */
export const askOnceMore = command({
  name: "ask-once-more",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">(), requestId: requestInput }),
  async run(ctx, { packetId, requestId }): Promise<Result<{ packetId: Id<"Packet"> }, SendError>> {
    const { repo, practice } = ctx;
    const last = await repo.packets.byId(practice.id, packetId);
    const target =
      last && last.returnedAt && (last.state === "returned" || last.state === "settled")
        ? await targetOfPacket(ctx, last)
        : undefined;
    if (!last || !target) return notFound;
    const ids = await inOrder(await repo.packets.parts(packetId), (p) => repo.versions.questionnaireOf(p.versionId));
    const before = await linkHolders(ctx, last, target.client);
    return sendOne(
      ctx,
      requestId,
      { ...target, visit: undefined },
      { questionnaireIds: ids, prefillIds: [], leafletIds: [], repeats: false },
      {
        ...(last.language ? { language: last.language } : {}),
        likeLast: last,
        people: before
          .filter((p) => p.recipient.contact)
          .map((p) => ({ relationId: p.recipient.relationId ?? null, role: p.role })),
      },
    );
  },
});

/** The versions in use of what was chosen, each once and in its order; refused as a whole where one cannot be sent. */
export async function versionsOf(
  ctx: Context<StaffActor>,
  ids: readonly Id<"Questionnaire">[],
): Promise<Result<{ id: Id<"Questionnaire">; versionId: Id<"Version"> }[], SendError>> {
  const rows = await inOrder([...new Set(ids)], (id) => questionnaireFor(ctx, id, "use"));
  const versions = rows.flatMap((q) =>
    q.ok && q.value.state === "active" && q.value.inUse ? [{ id: q.value.id, versionId: q.value.inUse }] : [],
  );
  if (versions.length < rows.length) return fail({ reason: "not-in-use" });
  if (!ctx.practice.signing.confirmed)
    for (const { versionId } of versions)
      if (isSigned(await ctx.repo.versions.definition(versionId))) return fail({ reason: "confirm-signing" });
  return ok(versions);
}

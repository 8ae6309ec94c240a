import { boolean, mixed, number, object } from "yup";
import { nameOf } from "../../core/chart";
import { consentStates, consentWords, isTrouble, type ConsentState } from "../../core/consent";
import { withdrawConsentSchema } from "../../core/forms";
import { translate } from "../../core/questionnaire";
import { talkWords } from "../../core/signing";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import {
  command,
  idInput,
  inOrder,
  nothing,
  notFound,
  query,
  type ClientActor,
  type CommonError,
  type Context,
} from "../kit";
import type { Client, Consent, Packet } from "../../db/repositories";
import { languageOf, recipientFor } from "../sending/recipient";
import { validOf, type Reading } from "../signing/standing";
import { tellStaff } from "../signing/tell-staff";
import { registerLines, type KeptConsent, type RegisterLine } from "./lines";

/** A consent that was given, as it is told. */
export interface ConsentView {
  readonly id: Id<"Consent">;
  readonly packetId: Id<"Packet">;
  readonly partId: Id<"Part">;
  readonly version: string;
  readonly by: readonly string[];
  readonly from: Instant;
  readonly until: Instant | null;
  /** The talk about it, where it was recorded. */
  readonly talk: { readonly on: string; readonly how: string } | undefined;
  readonly withdrawnAt: Instant | null;
  readonly withdrawnBy: string | undefined;
  readonly reason: string | undefined;
  /** A later one of the same text took its place. */
  readonly renewedAt: Instant | undefined;
  readonly outOfDate: boolean;
  readonly hasPaper: boolean;
}
export interface ConsentEntry {
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly questionnaireId: Id<"Questionnaire">;
  readonly title: string;
  readonly state: ConsentState;
  readonly words: string;
  readonly asked: boolean;
  /** It can be sent. */
  readonly inUse: boolean;
  /** The newest first. */
  readonly given: readonly ConsentView[];
}

export async function consentView(
  ctx: Reading,
  one: KeptConsent,
  renewedAt: Instant | undefined,
): Promise<ConsentView> {
  const { repo, practice } = ctx;
  const signatures = await validOf(ctx, one.partId);
  const talk = await repo.signers.talkOf(one.partId);
  const found = await repo.packets.part(practice.id, one.partId);
  return {
    id: one.id,
    packetId: found?.packet.id ?? ("" as Id<"Packet">),
    partId: one.partId,
    version: (await repo.versions.definition(one.versionId)).version,
    by: [...new Set(signatures.map((s) => s.statement.signer))],
    from: one.from,
    until: one.until,
    talk: talk && { on: talk.on, how: talkWords[talk.how] },
    withdrawnAt: one.withdrawnAt,
    withdrawnBy: one.withdrawnBy === "client" ? "the client" : (one.withdrawnBy ?? undefined),
    reason: one.reason,
    renewedAt,
    outOfDate: one.outOfDate,
    hasPaper: (await repo.sealedPapers.ofPart(one.partId)).length > 0,
  };
}
async function entryOf(ctx: Reading, line: RegisterLine, clientName: string, whole: boolean): Promise<ConsentEntry> {
  const shown = whole ? line.given : line.given.slice(-1);
  const views = await inOrder(shown, (one) => consentView(ctx, one, line.given[line.given.indexOf(one) + 1]?.from));
  return {
    clientId: line.clientId,
    clientName,
    questionnaireId: line.text.id,
    title: line.text.title,
    state: line.state,
    words: consentWords[line.state],
    asked: line.asked,
    inUse: line.text.state === "active",
    given: [...views].reverse(),
  };
}
const urgent = (one: { readonly state: ConsentState }, other: { readonly state: ConsentState }): number =>
  consentStates.indexOf(one.state) - consentStates.indexOf(other.state);

/** Every consent of one client, with what came before. */
export const clientConsents = query({
  name: "client-consents",
  access: "packet.send",
  input: object({ clientId: idInput<"Client">() }),
  async run(
    ctx,
    { clientId },
  ): Promise<Result<{ readonly clientName: string; readonly lines: readonly ConsentEntry[] }, CommonError>> {
    const client = await ctx.repo.clients.byId(ctx.practice.id, clientId);
    if (!client) return notFound;
    const lines = (await registerLines(ctx, [clientId])).sort(urgent);
    ctx.journal("consents.view", `client:${clientId}`);
    return ok({
      clientName: nameOf(client),
      lines: await inOrder(lines, (line) => entryOf(ctx, line, nameOf(client), true)),
    });
  },
});

export interface ConsentRegister {
  readonly texts: readonly {
    readonly id: Id<"Questionnaire">;
    readonly title: string;
    readonly inUse: boolean;
    readonly neededByAll: boolean;
    /** How many clients are to be asked (again): missing, running out, out of date. */
    readonly toRenew: number;
  }[];
  readonly counts: Readonly<Record<ConsentState, number>>;
  readonly lines: readonly ConsentEntry[];
  readonly all: number;
  readonly next: number | undefined;
  readonly previous: number | undefined;
}
const atOnce = 50;
/** Who may be asked anew by themselves: whoever withdrew is asked by a person only. */
export const isToRenew = (line: { readonly state: ConsentState; readonly asked: boolean }): boolean =>
  isTrouble(line.state) && line.state !== "withdrawn" && !line.asked;

/** The practice's register, the most urgent first. */
export const consentRegister = query({
  name: "consent-register",
  access: "packet.send",
  input: object({
    questionnaireId: idInput<"Questionnaire">().optional(),
    state: mixed<ConsentState>()
      .oneOf([...consentStates])
      .optional(),
    from: number().integer().min(0).default(0),
  }),
  async run(ctx, { questionnaireId, state, from }): Promise<Result<ConsentRegister, CommonError>> {
    const { repo, practice } = ctx;
    const clients = (await ctx.directory()).all("left-out").filter((c) => !c.isTest);
    const names = new Map(clients.map((c) => [c.id as string, nameOf(c)]));
    const all = await registerLines(
      ctx,
      clients.map((c) => c.id),
      true,
    );
    const ofText = all.filter((line) => questionnaireId === undefined || line.text.id === questionnaireId);
    const shown = ofText
      .filter((line) => state === undefined || line.state === state)
      .sort((a, b) => urgent(a, b) || (names.get(a.clientId) ?? "").localeCompare(names.get(b.clientId) ?? ""));
    return ok({
      texts: (await repo.consents.texts(practice.id))
        .filter((text) => text.state !== "draft")
        .map((text) => ({
          id: text.id,
          title: text.title,
          inUse: text.state === "active",
          neededByAll: text.neededByAll,
          toRenew: all.filter((line) => line.text.id === text.id && isToRenew(line)).length,
        })),
      counts: Object.fromEntries(
        consentStates.map((one) => [one, ofText.filter((line) => line.state === one).length]),
      ) as Record<ConsentState, number>,
      lines: await inOrder(shown.slice(from, from + atOnce), (line) =>
        entryOf(ctx, line, names.get(line.clientId) ?? "", false),
      ),
      all: shown.length,
      next: from + atOnce < shown.length ? from + atOnce : undefined,
      previous: from > 0 ? Math.max(0, from - atOnce) : undefined,
    });
  },
});
/** Clients who are to be asked (again) for a consent text. */
export async function clientsToRenew(
  ctx: Reading,
  clientIds: readonly Id<"Client">[],
  questionnaireId: Id<"Questionnaire">,
): Promise<Set<string>> {
  const lines = await registerLines(ctx, clientIds, true);
  return new Set(lines.filter((l) => l.text.id === questionnaireId && isToRenew(l)).map((l) => l.clientId as string));
}

export const setConsentNeeded = command({
  name: "set-consent-needed",
  access: "library.write",
  input: object({ questionnaireId: idInput<"Questionnaire">(), needed: boolean().required() }),
  async run(ctx, { questionnaireId, needed }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.consents.setNeeded(ctx.practice.id, questionnaireId, needed))) return notFound;
    ctx.journal("consent.need", `questionnaire:${questionnaireId}`, { needed });
    return ok(null);
  },
});

async function withdraw(
  ctx: Context,
  consent: Consent | undefined,
  by: string,
  reason: string,
): Promise<Result<null, CommonError>> {
  if (!consent || consent.voidedAt !== null) return notFound;
  if (consent.withdrawnAt !== null) {
    ctx.journal("consent.withdraw-repeated", `client:${consent.clientId}`, { consent: consent.id });
    return ok(null);
  }
  await ctx.repo.consents.withdraw(consent, ctx.now, by, reason);
  ctx.journal("consent.withdraw", `client:${consent.clientId}`, { consent: consent.id });
  ctx.tell("returns");
  return ok(null);
}
/** By staff, for a client who said so. */
export const withdrawConsent = command({
  name: "withdraw-consent",
  access: "packet.send",
  input: object({ consentId: idInput<"Consent">() }).concat(withdrawConsentSchema),
  async run(ctx, { consentId, reason }): Promise<Result<null, CommonError>> {
    if (reason === "") return fail({ reason: "invalid", fields: { reason: "Say in a few words why." } });
    return withdraw(ctx, await ctx.repo.consents.byId(ctx.practice.id, consentId), ctx.actor.name, reason);
  },
});

/** What somebody behind their own link may see and withdraw. */
export interface OwnConsent {
  readonly id: Id<"Consent">;
  readonly title: string;
  readonly from: Instant;
  readonly until: Instant | null;
  readonly withdrawnAt: Instant | null;
}
interface Behind {
  readonly client: Client;
  readonly packet: Packet;
  readonly language: string;
}
/**
 * Whose consents somebody behind a link may see and withdraw: the client's, for the client and for a parent or guardian,
 * who speak for them. Nobody else who fills in, reads or signs; nor on a device that was handed over.
 */
async function behind(ctx: Context<ClientActor>): Promise<Behind | undefined> {
  const { repo, practice, actor } = ctx;
  const packet = await repo.packets.byId(practice.id, actor.packetId);
  const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
  const link = await repo.links.byId(actor.linkId);
  if (!client || !link || actor.handedBy !== undefined || actor.unseen || actor.role === "reads") return undefined;
  const signer = link.signerId ? await repo.signers.byId(link.signerId) : undefined;
  if (signer?.person || signer?.staffId) return undefined;
  const { kind, ended } = await recipientFor(ctx, client, signer ? signer.relationId : link.relationId);
  const speaks = kind === "client" || kind === "guardian" || kind === "parent";
  return speaks && !ended ? { client, packet, language: languageOf(client, packet, link) } : undefined;
}
export const ownConsents = query({
  name: "own-consents",
  access: "client.any",
  input: nothing,
  async run(ctx): Promise<Result<{ readonly lines: readonly OwnConsent[] }, CommonError>> {
    const found = await behind(ctx);
    if (!found) return ok({ lines: [] });
    const all = await ctx.repo.consents.all(ctx.practice.id, [found.client.id]);
    const newest = new Map(all.filter((c) => c.voidedAt === null).map((c) => [c.questionnaireId, c]));
    return ok({
      lines: await inOrder([...newest.values()], async ({ id, versionId, from, until, withdrawnAt }) => ({
        id,
        title: translate(await ctx.repo.versions.definition(versionId), found.language).title,
        from,
        until,
        withdrawnAt,
      })),
    });
  },
});
/** By the client, on their own page. Whoever the answers are for is written to. */
export const withdrawOwnConsent = command({
  name: "withdraw-own-consent",
  access: "client.any",
  input: object({ consentId: idInput<"Consent">() }).concat(withdrawConsentSchema),
  async run(ctx, { consentId, reason }): Promise<Result<null, CommonError>> {
    const found = await behind(ctx);
    const consent = found && (await ctx.repo.consents.byId(ctx.practice.id, consentId));
    if (!found || consent?.clientId !== found.client.id) return notFound;
    const first = consent.withdrawnAt === null;
    const done = await withdraw(ctx, consent, "client", reason);
    if (done.ok && first) await tellStaff(ctx, found.packet, "withdrawn");
    return done;
  },
});

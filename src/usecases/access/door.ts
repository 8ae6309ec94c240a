import { object, string } from "yup";
import { codeSchema } from "../../core/forms";
import { maskContact } from "../../core/messages";
import { after, asksAgain, detailsMatch, isOpen, stateAt, type Door, type DoorPolicy } from "../../core/packet";
import {
  fail,
  instantMs,
  isBefore,
  isLanguageTag,
  laterBy,
  ok,
  type Id,
  type Instant,
  type Result,
} from "../../core/shared";
import { dayIn } from "../../core/scheduling";
import type { Proof } from "../../core/signing";
import type { Client, Packet, PersonalLink } from "../../db/repositories";
import { command, idInput, nothing, notFound, query, may, type CommonError, type Context } from "../kit";
import { sendLetter, sendLockedLetter } from "../sending/letters";
import { askAgain } from "../sending/ask-again";
import { signerDays } from "../signing/go-on";
import { reachSigner } from "../signing/people";
import { detailsOf, doorOf, languageOf, recipientFor, type Recipient } from "../sending/recipient";

const codeMinutes = 10;
const tries = 5;
const resendSeconds = 30;
const codesPerHour = 6;

/** `closed` covers unknown, expired, withdrawn, replaced and returned alike: a stranger learns nothing from it. */
export type DoorError =
  | { readonly reason: "closed" }
  | { readonly reason: "locked" }
  | { readonly reason: "wrong-code"; readonly left: number }
  | { readonly reason: "code-expired" }
  | { readonly reason: "wait"; readonly seconds: number }
  | { readonly reason: "too-many" };

const languageInput = string()
  .max(35)
  .optional()
  .test("language", "Choose a language.", (tag) => tag === undefined || isLanguageTag(tag));
/** A door pass of this device. */
const passInput = string().max(100).optional();
const tokenInput = string()
  .matches(/^[\w-]{20,100}$/)
  .required();

interface AtDoor {
  readonly link: PersonalLink;
  readonly packet: Packet;
  readonly recipient: Recipient;
  readonly client: Client;
  readonly door: Door;
  readonly policy: DoorPolicy;
  /** Its packet came back on an earlier day, and its link asks again: who gets in gets a new one. */
  readonly again: boolean;
}
/** What came back can still be looked at, and the copy be had, by who proves who they are, until the link ends. */
const isReceipt = (packet: Packet, now: Instant): boolean =>
  (packet.state === "returned" || packet.state === "settled") && isBefore(now, packet.expiresAt);
/** @param language as the page was switched to; else what the link, the packet or the client says. */
async function findDoor(
  ctx: Context,
  token: string,
  forUpdate: boolean,
  language?: string,
  pass?: string,
): Promise<Result<AtDoor, DoorError>> {
  const found = await ctx.repo.links.byDigest(ctx.sealer.keyedDigest("link", token), forUpdate);
  if (found?.link.signerId) return signerDoor(ctx, found, found.link.signerId, language, pass);
  const packet = found?.packet.repeats ? await ctx.repo.packets.newestOfSeries(found.packet) : found?.packet;
  const client = packet && (await ctx.repo.clients.byId(ctx.practice.id, packet.clientId));
  const again =
    packet !== undefined &&
    asksAgain(
      packet,
      ctx.now,
      packet.returnedAt ? dayIn(packet.returnedAt, ctx.practice.zone) : undefined,
      dayIn(ctx.now, ctx.practice.zone),
    );
  const receipt = packet !== undefined && !again && isReceipt(packet, ctx.now);
  if (
    !found ||
    !client ||
    found.link.revokedAt ||
    !(again || receipt || isOpen(stateAt(packet.state, packet.expiresAt, ctx.now)))
  )
    return fail({ reason: "closed" });
  // To a device that was never let in it is closed like any other.
  if (found.link.lockedAt) return fail({ reason: (await wasIn(ctx, found.link, pass)) ? "locked" : "closed" });
  const recipient = await recipientFor(
    ctx,
    client,
    found.link.relationId,
    language ?? languageOf(client, packet, found.link),
  );
  if (recipient.ended) return fail({ reason: "closed" });
  const policy = await ctx.repo.practices.door(ctx.practice.id);
  const door = await doorOf(ctx, policy, packet, client, recipient);
  // Who has but the link sees nothing of what came back.
  if (receipt && door.way === "none") return fail({ reason: "closed" });
  return ok({ link: found.link, packet, again, client, policy, recipient, door });
}
/** The door of who signs what came back: by a code, whatever the packet says, for what they sign stands. */
async function signerDoor(
  ctx: Context,
  { link, packet }: { readonly link: PersonalLink; readonly packet: Packet },
  signerId: Id<"Signer">,
  language?: string,
  pass?: string,
): Promise<Result<AtDoor, DoorError>> {
  const client = await ctx.repo.clients.byId(ctx.practice.id, packet.clientId);
  const signer = await ctx.repo.signers.byId(signerId);
  const isBack = packet.state === "returned" || packet.state === "settled";
  const ends = laterBy(link.createdAt, signerDays * 86_400_000);
  if (!client || !signer || link.revokedAt || !isBack || !isBefore(ctx.now, ends)) return fail({ reason: "closed" });
  if (link.lockedAt) return fail({ reason: (await wasIn(ctx, link, pass)) ? "locked" : "closed" });
  const recipient = await reachSigner(ctx, packet, client, signer, language ?? languageOf(client, packet, link));
  if (!recipient || recipient.ended || !recipient.contact) return fail({ reason: "closed" });
  const policy = await ctx.repo.practices.door(ctx.practice.id);
  const { channel, to } = recipient.contact;
  return ok({ link, packet, again: false, client, policy, recipient, door: { way: "code", channel, to } });
}
/** Whether this device passed the door of this link before, however long ago. */
const wasIn = async (ctx: Context, link: PersonalLink, pass: string | undefined): Promise<boolean> =>
  pass !== undefined && (await ctx.repo.passes.linkOf(ctx.sealer.keyedDigest("pass", pass))) === link.id;
/** The packet this device is still let in to through this very link. */
async function stillIn(ctx: Context, { link, packet, again }: AtDoor, pass: string | undefined) {
  const held =
    pass === undefined ? undefined : await ctx.repo.passes.byDigest(ctx.sealer.keyedDigest("pass", pass), ctx.now);
  return !again && held?.linkId === link.id && held.packetId === packet.id ? packet.id : undefined;
}

export interface DoorView {
  readonly practiceName: string;
  /**
   * How it is opened, and for a code, where one goes. `known`: this device let the same person in to another packet.
   */
  readonly way: Door["way"] | "known";
  readonly channel: "email" | "text" | undefined;
  readonly masked: string;
  readonly details: DoorPolicy["details"] | undefined;
  /** Somebody else fills it in for the client, whose details are asked. */
  readonly onBehalf: boolean;
  /** The client's, as a language tag: the door speaks it before anybody proved anything. */
  readonly language: string;
  /** A code is out and still good. */
  readonly codeOut: boolean;
  /** How long until another can be asked for. */
  readonly waitSeconds: number;
  /** The code is to be sent as the page opens. */
  readonly atOnce: boolean;
  /** This device passed the door a while ago and is still let in: nothing is asked. */
  readonly stillIn: Id<"Packet"> | undefined;
}
/** What stands on the page behind a personal link before anybody proved anything: no name, no questionnaire. */
export const openLink = query({
  name: "open-link",
  access: "anyone",
  input: object({ token: tokenInput, known: passInput, pass: passInput }),
  async run(ctx, { token, known, pass }): Promise<Result<DoorView, DoorError>> {
    const door = await findDoor(ctx, token, false, undefined, pass);
    if (!door.ok) return door;
    const { link, recipient, policy, door: how } = door.value;
    return ok({
      practiceName: ctx.practice.name,
      way: (await knownUntil(ctx, door.value, known)) ? "known" : how.way,
      channel: how.way === "code" ? how.channel : undefined,
      masked: how.way === "code" ? maskContact(how.channel, how.to) : "",
      details: how.way === "details" ? how.details : undefined,
      onBehalf: recipient.relationId !== undefined,
      language: recipient.language,
      codeOut: link.codeDigest !== null && link.codeExpiresAt !== null && isBefore(ctx.now, link.codeExpiresAt),
      waitSeconds: waitFor(ctx, link),
      // A code that ended unused is asked for by hand: a page that stands open must not send one after the other.
      atOnce: policy.atOnce === true && how.way === "code" && link.codeSentAt === null,
      stillIn: await stillIn(ctx, door.value, pass),
    });
  },
});

const waitFor = (ctx: Context, { codeSentAt }: PersonalLink): number =>
  codeSentAt === null ? 0 : Math.max(0, Math.ceil(resendSeconds - (instantMs(ctx.now) - instantMs(codeSentAt)) / 1000));

/** Sends a fresh code to the contact on file; an earlier one stops working. */
export const sendCode = command({
  name: "send-code",
  access: "anyone",
  input: object({ token: tokenInput, language: languageInput }),
  async run(ctx, { token, language }): Promise<Result<null, DoorError>> {
    const door = await findDoor(ctx, token, true, language);
    if (!door.ok) return door;
    const { link, packet, recipient, door: how } = door.value;
    if (how.way !== "code") return fail({ reason: "closed" });
    const seconds = waitFor(ctx, link);
    if (seconds > 0) return fail({ reason: "wait", seconds });
    if (!(await withinCodeLimits(ctx, link.id, how.to))) return fail({ reason: "too-many" });
    if (link.messageId) await ctx.repo.outbox.markOpened(link.messageId, ctx.now);
    const code = ctx.random.code();
    await ctx.repo.links.update(link.id, {
      codeUnseen: false,
      codeDigest: ctx.sealer.keyedDigest(`code:${link.id}`, code),
      codeSentAt: ctx.now,
      codeExpiresAt: laterBy(ctx.now, codeMinutes * 60_000),
      codesSent: link.codesSent + 1,
    });
    await sendLetter(ctx, "code", packet.id, { ...recipient, contact: { ...how, masked: "" } }, { code });
    ctx.journal("door.code-sent", `packet:${packet.id}`, { channel: how.channel });
    return ok(null);
  },
});
/**
 * Per link, per address they come from, and per contact that codes go to: many links to one person may not flood them.
 */
async function withinCodeLimits(ctx: Context, linkId: string, to?: string): Promise<boolean> {
  const start = laterBy(ctx.now, -3_600_000);
  const perLink = await ctx.repo.limits.count(`door:link:${linkId}`, ctx.now, start);
  const perAddress = await ctx.repo.limits.count(
    `door:address:${ctx.sealer.keyedDigest("limit", ctx.actor.address)}`,
    ctx.now,
    start,
  );
  const perContact =
    to === undefined
      ? 0
      : await ctx.repo.limits.count(`door:contact:${ctx.sealer.keyedDigest("limit", to)}`, ctx.now, start);
  return perLink <= codesPerHour && perAddress <= codesPerHour * 10 && perContact <= codesPerHour * 2;
}

/** `known`: the pass may open this person's other packets on this device. */
type Passed = { packetId: Id<"Packet">; passToken: string; expiresAt: Instant; known: boolean };
/**
 * A code typed at the door, one that was sent or one that staff read out. Five wrong ones in a row, over however many
 * codes, lock the link: the client is told plainly, the practitioner gets a letter, and only a fresh link opens it
 * again.
 */
export const checkCode = command({
  name: "check-code",
  access: "anyone",
  input: object({ token: tokenInput, language: languageInput }).concat(codeSchema),
  async run(ctx, { token, code, language }): Promise<Result<Passed, DoorError>> {
    const door = await findDoor(ctx, token, true);
    if (!door.ok) return door;
    const { link } = door.value;
    if (!link.codeDigest || !link.codeExpiresAt || !isBefore(ctx.now, link.codeExpiresAt))
      return fail({ reason: "code-expired" });
    return link.codeDigest === ctx.sealer.keyedDigest(`code:${link.id}`, code)
      ? letIn(ctx, door.value, language, { by: codeProof(door.value) })
      : wrong(ctx, door.value);
  },
});
/** A code that was sent went one way; one that was read out went none. */
const codeProof = ({ link, door }: AtDoor): Proof => {
  if (link.codeSentAt === null) return "read-out";
  return door.way === "code" && door.channel === "text" ? "code-text" : "code-email";
};
/** What they and the practice both know. Wrong tries count as wrong codes do. */
export const checkDetails = command({
  name: "check-details",
  access: "anyone",
  input: object({
    token: tokenInput,
    language: languageInput,
    birthDate: string().max(10).default(""),
    word: string().max(200).default(""),
  }),
  async run(ctx, { token, birthDate, word, language }): Promise<Result<Passed, DoorError>> {
    const door = await findDoor(ctx, token, true);
    if (!door.ok) return door;
    const { door: how, client } = door.value;
    if (how.way !== "details") return fail({ reason: "closed" });
    if (!(await withinCodeLimits(ctx, door.value.link.id))) return fail({ reason: "too-many" });
    return detailsMatch(how.details, { birthDate, word }, await detailsOf(ctx, door.value.policy, client))
      ? letIn(ctx, door.value, language, { by: "details" })
      : wrong(ctx, door.value);
  },
});
/** A door that is open to whoever has the link: staff were warned when they chose it. */
export const openFreely = command({
  name: "open-freely",
  access: "anyone",
  input: object({ token: tokenInput, language: languageInput }),
  async run(ctx, { token, language }): Promise<Result<Passed, DoorError>> {
    const door = await findDoor(ctx, token, true);
    if (!door.ok) return door;
    if (door.value.door.way !== "none") return fail({ reason: "closed" });
    ctx.journal("door.none", `packet:${door.value.packet.id}`);
    return letIn(ctx, door.value, language, { proved: false, by: "link" });
  },
});

/**
 * When a passed door for another packet, on this device, lets the same person in here too, where the practice allows
 * it: until when. Never one that stood open, and never past a way of its own that this packet was sent with.
 */
async function knownUntil(
  ctx: Context,
  { policy, link, packet }: AtDoor,
  known: string | undefined,
): Promise<Instant | undefined> {
  if (!policy.others || known === undefined || packet.door !== null || link.signerId !== null) return undefined;
  const pass = await ctx.repo.passes.byDigest(ctx.sealer.keyedDigest("pass", known), ctx.now);
  const other =
    pass?.proved && pass.relationId === link.relationId
      ? await ctx.repo.packets.byId(ctx.practice.id, pass.packetId)
      : undefined;
  return other?.clientId === packet.clientId ? pass?.expiresAt : undefined;
}
export const openKnown = command({
  name: "open-known",
  access: "anyone",
  input: object({ token: tokenInput, language: languageInput, known: passInput }),
  async run(ctx, { token, language, known }): Promise<Result<Passed, DoorError>> {
    const door = await findDoor(ctx, token, true);
    if (!door.ok) return door;
    const until = await knownUntil(ctx, door.value, known);
    if (!until) return fail({ reason: "closed" });
    ctx.journal("door.known", `packet:${door.value.packet.id}`);
    // No longer than the proof it rests on: going from packet to packet would keep a door open for ever.
    return letIn(ctx, door.value, language, { until, by: "known" });
  },
});

/** The page stays open on this device for as long again. Not on one of the practice's, which is to be given back. */
export const stayIn = command({
  name: "stay-in",
  access: "client",
  input: nothing,
  async run(ctx): Promise<Result<{ passUntil: Instant }, CommonError>> {
    const { actor, repo, practice, now } = ctx;
    if (actor.handedBy !== undefined) return notFound;
    const { hours } = await repo.practices.door(practice.id);
    const passUntil = laterBy(now, hours * 3_600_000);
    await repo.passes.extend(actor.passDigest, passUntil);
    ctx.journal("door.stayed", `packet:${actor.packetId}`);
    return ok({ passUntil });
  },
});

async function letIn(
  ctx: Context,
  door: AtDoor,
  language: string | undefined,
  { proved = true, until, by }: { readonly proved?: boolean; readonly until?: Instant; readonly by: Proof },
): Promise<Result<Passed, never>> {
  const { repo, now, sealer } = ctx;
  const { link, policy } = door;
  const packet = door.again ? await askAgain(ctx, door.packet) : door.packet;
  const passToken = ctx.random.token();
  const unseen = link.unseen || (link.codeDigest !== null && link.codeUnseen);
  const expiresAt = until ?? laterBy(now, policy.hours * 3_600_000);
  await repo.links.update(link.id, {
    codeDigest: null,
    codeExpiresAt: null,
    codeSentAt: null,
    wrongCodes: 0,
    ...(language ? { language } : {}),
  });
  await repo.passes.add({
    digest: sealer.keyedDigest("pass", passToken),
    packetId: packet.id,
    linkId: link.id,
    // What office could have opened by itself proves nothing, and shows nothing.
    proved: proved && !unseen,
    way: by,
    unseen,
    createdAt: now,
    expiresAt,
  });
  if (link.signerId) await repo.signers.update(link.signerId, { openedAt: now });
  const state = link.signerId ? undefined : after(packet.state, "pass-door");
  if (state) await repo.packets.update(packet.id, { state, openedAt: packet.openedAt ?? now });
  ctx.journal("door.passed", `packet:${packet.id}`, {
    device: ctx.actor.device.slice(0, 200),
    ...(link.signerId ? { signer: link.signerId } : {}),
  });
  ctx.tell("returns");
  return ok({ packetId: packet.id, passToken, expiresAt, known: proved && !unseen && policy.others === true });
}
async function wrong(ctx: Context, door: AtDoor): Promise<Result<never, DoorError>> {
  const wrongCodes = door.link.wrongCodes + 1;
  if (wrongCodes >= tries) {
    await lock(ctx, door, wrongCodes);
    return fail({ reason: "locked" });
  }
  await ctx.repo.links.update(door.link.id, { wrongCodes });
  ctx.journal("door.wrong-code", `packet:${door.packet.id}`, { left: tries - wrongCodes });
  return fail({ reason: "wrong-code", left: tries - wrongCodes });
}

/**
 * A code that staff read out to somebody they know: on the phone, or standing before them. It opens every link of the
 * packet that works.
 */
export const readOutCode = command({
  name: "read-out-code",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">() }),
  async run(
    ctx,
    { packetId },
  ): Promise<Result<{ code: string; until: Instant }, CommonError | { readonly reason: "closed" | "answers-there" }>> {
    const { repo, practice, now } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId, true);
    if (!packet) return notFound;
    if (!isOpen(stateAt(packet.state, packet.expiresAt, now)) || packet.lockedAt) return fail({ reason: "closed" });
    const unseen = !may(ctx, "answers.read");
    if (unseen && packet.state === "sent-back") return fail({ reason: "answers-there" });
    const code = ctx.random.code();
    const until = laterBy(now, codeMinutes * 60_000);
    for (const link of (await repo.links.live(packet)).filter((l) => l.signerId === null))
      await repo.links.update(link.id, {
        codeDigest: ctx.sealer.keyedDigest(`code:${link.id}`, code),
        codeExpiresAt: until,
        codeSentAt: null,
        codeUnseen: unseen,
      });
    ctx.journal("door.read-out", `packet:${packetId}`, { unseen });
    return ok({ code, until });
  },
});

async function lock(ctx: Context, { link, packet }: AtDoor, wrongCodes: number): Promise<void> {
  const { repo, now } = ctx;
  await repo.links.update(link.id, { wrongCodes, lockedAt: now, codeDigest: null });
  await repo.packets.update(packet.id, { lockedAt: now });
  await sendLockedLetter(ctx, packet.id, await repo.staff.byId(packet.staffId));
  ctx.journal("door.locked", `packet:${packet.id}`, { wrongCodes });
  ctx.tell("returns");
}

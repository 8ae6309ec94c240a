import { object } from "yup";
import { isEmptyDocument, type TakeHomeDocument } from "../../core/notes";
import { fail, isBefore, ok, type Instant, type Result } from "../../core/shared";
import type { Client, Note, Packet } from "../../db/repositories";
import {
  command,
  idInput,
  logoPath,
  may,
  nothing,
  notFound,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";
import { languageOf, recipientFor } from "../sending/recipient";
import { endOf, issueLink, targetOf, usualExpiry } from "../sending/target";
import { findNote } from "./open";

export type ShareError =
  | CommonError
  | { readonly reason: "nothing-to-share" }
  /** There is no address of theirs. */
  | { readonly reason: "no-contact" };

/**
 * Gives the client what stands below the line now: that document alone is sealed apart, and it is all that their page
 * ever reads. Shared again, it is another version behind a fresh link; shared unchanged, nothing is sent again.
 */
export async function shareNow(
  ctx: Context<StaffActor>,
  note: Note,
  client: Client,
  requestId: string,
): Promise<Result<{ readonly version: number }, ShareError>> {
  const { repo, practice, now, random, actor } = ctx;
  const document = note.content.takeHome;
  if (isEmptyDocument(document)) return fail({ reason: "nothing-to-share" });
  const before = (await repo.notes.shared(note.id)).at(-1);
  const open = before && (await repo.packets.byId(practice.id, before.packetId, true));
  const isOut = open !== undefined && open.state === "settled" && isBefore(now, open.expiresAt);
  if (before && isOut && JSON.stringify(before.document) === JSON.stringify(document))
    return ok({ version: before.version });
  const recipient = await recipientFor(ctx, client);
  if (!recipient.contact || recipient.ended) return fail({ reason: "no-contact" });
  const target = await targetOf(ctx, { clientId: client.id });
  const expiry = endOf(ctx, usualExpiry(ctx));
  if (!target.ok) return notFound;
  if (!expiry.ok) return expiry;
  if (open) {
    await repo.links.revokeAll(open, now);
    await repo.packets.update(open.id, { state: "withdrawn" });
  }
  const packetId = random.id<"Packet">();
  const packet = {
    id: packetId,
    practiceId: practice.id,
    requestId,
    clientId: client.id,
    relationId: recipient.relationId ?? null,
    visitId: null,
    staffId: actor.id,
    state: "settled" as const,
    isTakeHome: true,
    createdAt: now,
    sentAt: now,
    expiresAt: expiry.value,
    language: null,
    leaflets: [],
    // Whatever the practice lets its questionnaires be opened by: this is read behind a code.
    door: "contact" as const,
  };
  if (!(await repo.packets.add(packet, []))) return notFound;
  const version = (before?.version ?? 0) + 1;
  await repo.notes.share({ noteId: note.id, version, packetId, sharedAt: now, sharedBy: actor.id, document });
  await issueLink(ctx, packet, recipient, target.value, "takeHome", { role: "reads" });
  return ok({ version });
}

export const shareTakeHome = command({
  name: "share-take-home",
  access: "note.write",
  input: object({ noteId: idInput<"Note">(), requestId: requestInput }),
  async run(ctx, { noteId, requestId }): Promise<Result<{ readonly version: number }, ShareError>> {
    if (!may(ctx, "packet.send")) return fail({ reason: "not-allowed" });
    await ctx.repo.notes.hold(noteId);
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    const shared = await shareNow(ctx, found.value.note, found.value.client, requestId);
    if (shared.ok) ctx.journal("take-home.share", `note:${noteId}`, shared.value);
    return shared;
  },
});
/** The client's page shows it no longer. */
export const withdrawTakeHome = command({
  name: "withdraw-take-home",
  access: "note.write",
  input: object({ noteId: idInput<"Note">() }),
  async run(ctx, { noteId }): Promise<Result<null, CommonError>> {
    const { repo, practice, now } = ctx;
    if (!may(ctx, "packet.send")) return fail({ reason: "not-allowed" });
    await repo.notes.hold(noteId);
    const found = await findNote(ctx, noteId);
    if (!found.ok) return found;
    const last = (await repo.notes.shared(noteId)).at(-1);
    const packet = last && (await repo.packets.byId(practice.id, last.packetId, true));
    if (!packet) return notFound;
    await repo.links.revokeAll(packet, now);
    await repo.packets.update(packet.id, { state: "withdrawn" });
    ctx.journal("take-home.withdraw", `note:${noteId}`);
    return ok(null);
  },
});

export interface TakeHomeView {
  readonly practiceName: string;
  readonly logo: string | null;
  readonly language: string;
  readonly locale: string;
  readonly zone: string;
  readonly sharedAt: Instant;
  readonly version: number;
  readonly document: TakeHomeDocument;
}
/** What a client's link opens: the document that was shared, and nothing else of the note it came from. */
export const takeHomeView = command({
  name: "take-home-view",
  access: "client",
  input: nothing,
  async run(ctx): Promise<Result<TakeHomeView, CommonError>> {
    const { repo, practice, actor, now } = ctx;
    const packet: Packet | undefined = await repo.packets.byId(practice.id, actor.packetId);
    const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
    if (!client || !packet.isTakeHome || packet.state !== "settled" || !isBefore(now, packet.expiresAt))
      return notFound;
    const shared = await repo.notes.sharedBy(packet.id);
    const link = await repo.links.byId(actor.linkId);
    if (!shared || !link || link.revokedAt) return notFound;
    ctx.journal("take-home.read", `packet:${packet.id}`, { version: shared.version });
    return ok({
      practiceName: practice.name,
      logo: logoPath(practice),
      language: languageOf(client, packet, link),
      locale: practice.locale,
      zone: client.zone ?? practice.zone,
      sharedAt: shared.sharedAt,
      version: shared.version,
      document: shared.document,
    });
  },
});

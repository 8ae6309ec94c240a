import { object } from "yup";
import { after, isOpen, stateAt } from "../../core/packet";
import { fail, laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, nothing, notFound, may, type CommonError } from "../kit";
import { languageOf, recipientFor } from "../sending/recipient";
import { bareLink } from "../sending/target";

const handedForMs = 2 * 3_600_000;

/**
 * Opens a packet on a device of the practice, for the person who stands before whoever hands it over: they are known by
 * sight, so no code is asked. Handed over by somebody who may not see answers, it shows nothing that was there before.
 * Such a pass is short, opens no other packet, and is named in what is signed with it. The
 * caller signs the member of staff out on that device.
 */
export const handOver = command({
  name: "hand-over",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">() }),
  async run(
    ctx,
    { packetId },
  ): Promise<
    Result<
      { passToken: string; expiresAt: Instant },
      CommonError | { readonly reason: "closed" | "nobody-there" | "answers-there" }
    >
  > {
    const { repo, practice, now, sealer, actor, random } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId, true);
    const client = packet && (await repo.clients.byId(practice.id, packet.clientId));
    if (!packet || !client) return notFound;
    const sent = after(packet.state, "send") ?? packet.state;
    if (!isOpen(stateAt(sent, packet.expiresAt, now)) || packet.lockedAt) return fail({ reason: "closed" });
    const recipient = await recipientFor(ctx, client, packet.relationId, languageOf(client, packet));
    if (recipient.ended) return fail({ reason: "nobody-there" });
    // What somebody may not see in the app they do not see on a client's page either.
    const unseen = !may(ctx, "answers.read");
    if (unseen && packet.state === "sent-back") return fail({ reason: "answers-there" });
    const linkId = random.id<"Link">();
    // A link of its own that nobody is told, so that what is answered here bears the name of who answered.
    await bareLink(ctx, packet, recipient, { id: linkId });
    const passToken = random.token();
    const expiresAt = laterBy(now, handedForMs);
    await repo.passes.add({
      digest: sealer.keyedDigest("pass", passToken),
      packetId,
      linkId,
      proved: false,
      way: "handed-over",
      handedBy: actor.id,
      unseen,
      createdAt: now,
      expiresAt,
    });
    await repo.packets.update(packetId, {
      state: after(sent, "pass-door") ?? sent,
      sentAt: packet.sentAt ?? now,
      openedAt: packet.openedAt ?? now,
    });
    ctx.journal("door.handed-over", `packet:${packetId}`, { unseen });
    ctx.tell("returns");
    return ok({ passToken, expiresAt });
  },
});

/** The device goes back to the practice: its pass opens nothing any more. What is answered stays. */
export const giveBack = command({
  name: "give-back",
  access: "client",
  input: nothing,
  async run(ctx): Promise<Result<{ packetId: Id<"Packet"> }, CommonError>> {
    const { repo, actor } = ctx;
    if (actor.handedBy === undefined) return notFound;
    await repo.passes.end(actor.passDigest, actor.linkId, ctx.now);
    ctx.journal("door.given-back", `packet:${actor.packetId}`);
    return ok({ packetId: actor.packetId });
  },
});

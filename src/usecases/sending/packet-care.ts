import { boolean, mixed, object, string } from "yup";
import { after, isOpen, copyRoles, stateAt, type Door, type CopyRole } from "../../core/packet";
import { fail, instantMs, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Packet } from "../../db/repositories";
import { command, idInput, notFound, requestInput, may, type Context, type StaffActor } from "../kit";
import { doorOf, languageOf, recipientFor } from "./recipient";
import { linkHolders, writeTo, type LinkHolder } from "./people";
import type { SendError } from "./send-packet";
import { bareLink, endOf, issueLink, renewLink, targetOfPacket, usualExpiry, type Target } from "./target";

/** What may be done to a packet that is out. */
type CareError = SendError | { readonly reason: "closed" };
const closed = fail({ reason: "closed" as const });

interface Held {
  readonly packet: Packet;
  readonly target: Target;
  readonly people: readonly LinkHolder[];
}
/**
 * A packet that can still be answered, or could until its link ran out, held for a change, with everybody who has a
 * link.
 */
async function holdOpen(ctx: Context<StaffActor>, packetId: Id<"Packet">): Promise<Result<Held, CareError>> {
  const packet = await ctx.repo.packets.byId(ctx.practice.id, packetId, true);
  const target = packet && (await targetOfPacket(ctx, packet));
  if (!packet || !target) return notFound;
  const state = stateAt(packet.state, packet.expiresAt, ctx.now);
  if (!isOpen(state) && state !== "lapsed" && state !== "ready") return closed;
  return ok({ packet, target, people: await linkHolders(ctx, packet, target.client) });
}

/**
 * A fresh link, which takes the request's id, so that pressing twice makes one: the old one and every device it let in
 * are shut out, a lock is lifted, and the time to answer starts anew. Answers stay.
 */
export const reissueLink = command({
  name: "reissue-link",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">(), requestId: requestInput }),
  async run(ctx, { packetId, requestId }): Promise<Result<null, CareError>> {
    const { repo, now } = ctx;
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    if (await repo.links.has(packetId, requestId as Id<"Link">)) {
      ctx.journal("packet.reissue-repeated", `packet:${packetId}`);
      return ok(null);
    }
    const { people, packet, target } = held.value;
    if (!people.some((p) => p.recipient.contact)) return fail({ reason: "no-contact" });
    const expiry = endOf(ctx, usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    await repo.links.revokeAll(packet, now);
    await repo.packets.update(packetId, {
      expiresAt: expiry.value,
      lockedAt: null,
      // A letter like any other: nobody is reminded of it within the day.
      nudgedAt: now,
      state: after(packet.state, "send") ?? packet.state,
    });
    const letters = await writeTo(
      ctx,
      { ...packet, expiresAt: expiry.value },
      target,
      people,
      packet.state === "sent-back" ? "sentBack" : "packet",
      requestId,
    );
    ctx.journal("packet.reissue", `packet:${packetId}`, { letters });
    return ok(null);
  },
});

const dayMs = 86_400_000;
/**
 * Reminds with a link of its own; the one they have goes on working. Within a day of the last letter only when that is
 * said to be meant.
 */
export const nudge = command({
  name: "nudge",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">(), requestId: requestInput, confirmed: boolean().default(false) }),
  async run(
    ctx,
    { packetId, requestId, confirmed },
  ): Promise<Result<null, CareError | { readonly reason: "too-soon"; readonly since: Instant }>> {
    const { repo, now } = ctx;
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    if (await repo.links.has(packetId, requestId as Id<"Link">)) {
      ctx.journal("packet.nudge-repeated", `packet:${packetId}`);
      return ok(null);
    }
    const { packet, target } = held.value;
    const people = held.value.people.filter((p) => p.role === "fills");
    if (!isOpen(stateAt(packet.state, packet.expiresAt, now)) || packet.lockedAt) return closed;
    if (!people.some((p) => p.recipient.contact)) return fail({ reason: "no-contact" });
    const last = packet.nudgedAt ?? packet.sentAt ?? packet.createdAt;
    if (!confirmed && instantMs(now) - instantMs(last) < dayMs) return fail({ reason: "too-soon", since: last });
    await repo.packets.update(packetId, { nudgedAt: now });
    ctx.journal("packet.nudge", `packet:${packetId}`, {
      letters: await writeTo(ctx, packet, target, people, "nudge", requestId),
    });
    return ok(null);
  },
});

/** Keeps it open until the end of another day; one that lapsed opens again. */
export const extend = command({
  name: "extend-packet",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">(), expiresOn: string().required("Choose a day.") }),
  async run(ctx, { packetId, expiresOn }): Promise<Result<null, CareError>> {
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    const expiry = endOf(ctx, expiresOn);
    if (!expiry.ok) return expiry;
    await ctx.repo.packets.update(packetId, { expiresAt: expiry.value });
    ctx.journal("packet.extend", `packet:${packetId}`, { until: expiresOn });
    return ok(null);
  },
});

/**
 * Takes it back: its links stop working and nothing of it can be answered any more. What was answered stays with the
 * packet, unread.
 */
export const withdraw = command({
  name: "withdraw-packet",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">() }),
  async run(ctx, { packetId }): Promise<Result<null, CareError>> {
    const { repo, practice, now } = ctx;
    const packet = await repo.packets.byId(practice.id, packetId, true);
    if (!packet) return notFound;
    if (packet.state === "withdrawn") {
      ctx.journal("packet.withdraw-repeated", `packet:${packetId}`);
      return ok(null);
    }
    const state = after(packet.state, "withdraw");
    if (!state) return closed;
    await repo.links.revokeAll(packet, now);
    await repo.packets.update(packetId, { state, lockedAt: null });
    await repo.packets.endSeries(packet);
    ctx.journal("packet.withdraw", `packet:${packetId}`);
    ctx.tell("returns");
    return ok(null);
  },
});

/**
 * A link for one person of a packet: in a letter of ours, or to be copied into some other channel. Who opens it still
 * proves who they are, as the packet's door says. Asked for again with the same request, the copied link is made anew
 * and the one that may have been lost on its way here stops working.
 */
export const giveLink = command({
  name: "give-link",
  access: "packet.send",
  input: object({
    packetId: idInput<"Packet">(),
    requestId: requestInput,
    relationId: mixed<Id<"Relation">>((v): v is Id<"Relation"> => typeof v === "string")
      .nullable()
      .defined(),
    role: mixed<CopyRole>()
      .oneOf([...copyRoles])
      .default("fills"),
    by: mixed<"letter" | "copy">().oneOf(["letter", "copy"]).required(),
  }),
  async run(
    ctx,
    { packetId, requestId, relationId, role, by },
  ): Promise<Result<{ link: string | undefined; way: Door["way"] }, CareError>> {
    const { repo, now } = ctx;
    const id = requestId as Id<"Link">;
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    const { packet, target } = held.value;
    const state = stateAt(packet.state, packet.expiresAt, now);
    if (state === "lapsed" || packet.lockedAt) return closed;
    const recipient = await recipientFor(ctx, target.client, relationId, languageOf(target.client, packet));
    if ((recipient.relationId ?? null) !== relationId || recipient.ended) return fail({ reason: "nobody-there" });
    const { way } = await doorOf(ctx, await repo.practices.door(ctx.practice.id), packet, target.client, recipient);
    const known = await repo.links.byId(id);
    // The id stands for this one's link, or for no link at all.
    if (known && (known.packetId !== packetId || known.relationId !== relationId || known.revokedAt)) return notFound;
    if (known && by === "letter") {
      ctx.journal("packet.link-repeated", `packet:${packetId}`);
      return ok({ link: undefined, way });
    }
    if (by === "letter" && !recipient.contact) return fail({ reason: "no-contact" });
    // A code goes to the client alone; any other door, who copies the link here could pass themselves.
    const unseen = by === "copy" && way !== "code" && !may(ctx, "answers.read");
    let link: string | undefined;
    if (by === "letter") await issueLink(ctx, packet, recipient, target, "packet", { role, id });
    else if (known) {
      if (unseen) await ctx.repo.links.update(id, { unseen });
      link = await renewLink(ctx, id);
    } else link = await bareLink(ctx, packet, recipient, { role, id, unseen });
    const sent = after(packet.state, "send");
    if (sent) await repo.packets.update(packetId, { state: sent, sentAt: now });
    ctx.journal("packet.link", `packet:${packetId}`, { by, role });
    return ok({ link, way });
  },
});

/**
 * After wrong codes: the same links work again, each with all its tries. For when staff know that it was the right
 * person.
 */
export const unlock = command({
  name: "unlock-packet",
  access: "packet.send",
  input: object({ packetId: idInput<"Packet">() }),
  async run(ctx, { packetId }): Promise<Result<null, CareError>> {
    const held = await holdOpen(ctx, packetId);
    if (!held.ok) return held;
    for (const link of await ctx.repo.links.live(held.value.packet))
      await ctx.repo.links.update(link.id, { lockedAt: null, wrongCodes: 0, codeDigest: null });
    await ctx.repo.packets.update(packetId, { lockedAt: null });
    ctx.journal("door.unlocked", `packet:${packetId}`);
    ctx.tell("returns");
    return ok(null);
  },
});

import { array, object, string } from "yup";
import { after, type SentBack } from "../../core/packet";
import { shownQuestions } from "../../core/questionnaire";
import { fail, ok, type Id, type Result } from "../../core/shared";
import { command, idInput, notFound, requestInput, type CommonError } from "../kit";
import { bareLink, endOf, linkHolders, targetOfPacket, usualExpiry, writeTo } from "../sending";
import { readParts, returnFrame } from "./returns";

const line = object({
  partId: idInput<"Part">(),
  key: string().max(500).required(),
  reason: string().trim().max(500, "Keep it under 500 characters.").required("Say what they should look at."),
});

/**
 * Sends some answers back with a reason each: only those are open again, behind a fresh link, or where nobody can be
 * reached on a device that is handed over. What is signed is signed anew once an answer changed. The request's id
 * becomes a link's, so that pressing twice sends it back once.
 */
export const sendBack = command({
  name: "send-back",
  access: "answers.read",
  input: object({
    packetId: idInput<"Packet">(),
    requestId: requestInput,
    lines: array(line).min(1, "Choose at least one answer.").max(100).required(),
  }),
  async run(
    ctx,
    { packetId, requestId, lines },
  ): Promise<Result<null, CommonError | { readonly reason: "posted" | "no-such-answer" }>> {
    const { repo, now, actor, practice } = ctx;
    // Held before anything is looked at: pressed twice at once, the second finds what the first did.
    await repo.packets.byId(practice.id, packetId, true);
    if (await repo.links.has(packetId, requestId as Id<"Link">)) {
      ctx.journal("packet.send-back-repeated", `packet:${packetId}`);
      return ok(null);
    }
    const frame = await returnFrame(ctx, packetId, true);
    if (!frame.ok) return frame;
    const { packet } = frame.value;
    const state = after(packet.state, "send-back");
    const target = await targetOfPacket(ctx, packet);
    if (!target) return notFound;
    if (!state) return fail({ reason: "posted" });
    const keys = new Set(
      (await readParts(ctx, packetId)).flatMap((r) =>
        shownQuestions(r.questionnaire, r.answers)
          .filter((q) => !q.item.readOnly)
          .map((q) => `${r.part.id} ${q.key}`),
      ),
    );
    if (!lines.every((l) => keys.has(`${l.partId} ${l.key}`))) return fail({ reason: "no-such-answer" });
    const people = await linkHolders(ctx, packet, target.client);
    const expiry = endOf(ctx, usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    const sentBack: SentBack = { at: now, by: actor.name, lines };
    await repo.links.revokeAll(packet, now);
    await repo.packets.update(packetId, {
      state,
      expiresAt: expiry.value,
      lockedAt: null,
      sentBack: repo.packets.seal(packet, "sentBack", sentBack),
    });
    const letters = await writeTo(ctx, { ...packet, expiresAt: expiry.value }, target, people, "sentBack", requestId);
    // Nobody can be reached: each keeps a part in it by a link that nobody is told, and a device is handed over again.
    if (letters === 0)
      for (const [index, { recipient, role }] of people.entries())
        await bareLink(ctx, packet, recipient, { role, ...(index === 0 ? { id: requestId as Id<"Link"> } : {}) });
    ctx.journal("packet.send-back", `packet:${packetId}`, { answers: lines.length, letters });
    ctx.tell("returns");
    return ok(null);
  },
});

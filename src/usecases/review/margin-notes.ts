import { object, string } from "yup";
import { ok, type Id, type Result } from "../../core/shared";
import { command, idInput, notFound, requestInput, type CommonError, type Context } from "../kit";
import { isReturned } from "./returns";

async function isHere({ repo, practice }: Context, partId: Id<"Part">): Promise<Id<"Packet"> | undefined> {
  const found = await repo.packets.part(practice.id, partId);
  const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
  return client && isReturned(found.packet) ? found.packet.id : undefined;
}
/** Writes a remark beside an answer, for staff alone. */
export const addMarginNote = command({
  name: "add-margin-note",
  access: "answers.read",
  input: object({
    partId: idInput<"Part">(),
    key: string().max(600).required(),
    requestId: requestInput,
    text: string().trim().max(2000, "Keep a remark under 2000 characters.").required("Write the remark."),
  }),
  async run(ctx, { partId, key, requestId, text }): Promise<Result<null, CommonError>> {
    const packetId = await isHere(ctx, partId);
    if (!packetId) return notFound;
    const fresh = await ctx.repo.marginNotes.add({
      id: requestId as Id<"MarginNote">,
      partId,
      key,
      staffId: ctx.actor.id,
      text,
      at: ctx.now,
    });
    ctx.journal(fresh ? "margin-note.add" : "margin-note.add-repeated", `packet:${packetId}`, { part: partId });
    ctx.tell("returns");
    return ok(null);
  },
});
/** Takes a remark of one's own away. */
export const dropMarginNote = command({
  name: "drop-margin-note",
  access: "answers.read",
  input: object({ partId: idInput<"Part">(), id: idInput<"MarginNote">() }),
  async run(ctx, { partId, id }): Promise<Result<null, CommonError>> {
    const packetId = await isHere(ctx, partId);
    const note = (await ctx.repo.marginNotes.ofParts([partId])).find((one) => one.id === id);
    if (!packetId || note?.staffId !== ctx.actor.id) return notFound;
    await ctx.repo.marginNotes.drop(id);
    ctx.journal("margin-note.remove", `packet:${packetId}`, { part: partId });
    return ok(null);
  },
});

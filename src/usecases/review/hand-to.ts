import { object } from "yup";
import { fail, ok, type Result } from "../../core/shared";
import { command, idInput, type CommonError } from "../kit";
import { readersFor } from "./readers";
import { returnFrame } from "./returns";

/** A colleague reads and charts it from now on. */
export const handReturn = command({
  name: "hand-return",
  access: "answers.read",
  input: object({ packetId: idInput<"Packet">(), staffId: idInput<"Staff">() }),
  async run(ctx, { packetId, staffId }): Promise<Result<null, CommonError | { readonly reason: "nobody-there" }>> {
    const frame = await returnFrame(ctx, packetId, true);
    if (!frame.ok) return frame;
    const { packet, client } = frame.value;
    if (!(await readersFor(ctx, client.id)).some(({ id }) => id === staffId)) return fail({ reason: "nobody-there" });
    if (packet.staffId !== staffId) await ctx.repo.packets.update(packetId, { staffId });
    ctx.journal("return.hand", `packet:${packetId}`, { to: staffId });
    ctx.tell("returns");
    return ok(null);
  },
});

import type { Packet } from "../../db/repositories";
import type { Context } from "../kit";
import { sendSigningLetter } from "../sending/letters";

/** Writes to whoever the answers are for that a signature needs them. Nothing of whose or what stands in the letter. */
export const tellStaff = async (ctx: Context, packet: Packet): Promise<void> =>
  sendSigningLetter(ctx, packet.id, await ctx.repo.staff.byId(packet.staffId));

import type { Packet } from "../../db/repositories";
import type { Context } from "../kit";
import { sendSigningLetter } from "../sending/letters";

/** Writes to whoever the answers are for, where a signature or a consent needs them: nothing of whose or what in it. */
export const tellStaff = async (ctx: Context, packet: Packet, why: "sign" | "withdrawn" = "sign"): Promise<void> =>
  sendSigningLetter(ctx, packet, why, await ctx.repo.staff.byId(packet.staffId));

import { fail, ok, type Result } from "../../core/shared";
import type { Context, StaffActor } from "../kit";
import { withinLimits } from "./limits";
import { takeCode } from "./second-factor";

/** Whether who is signed in is still the one who sits there: by their password, or a code of their second factor. */
export async function provesAnew(
  ctx: Context<StaffActor>,
  { password, code }: { readonly password: string; readonly code: string },
): Promise<Result<null, { readonly reason: "wrong" | "too-many" }>> {
  if (!(await withinLimits(ctx, "password-again", ctx.actor.email))) return fail({ reason: "too-many" });
  const staff = await ctx.repo.staff.byId(ctx.actor.id, true);
  if (!staff) return fail({ reason: "wrong" });
  if (code !== "") return (await takeCode(ctx, staff, code)) ? ok(null) : fail({ reason: "wrong" });
  return (await ctx.passwords.verify(staff.passwordHash, password)) ? ok(null) : fail({ reason: "wrong" });
}

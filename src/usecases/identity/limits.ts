import { laterBy } from "../../core/shared";
import type { Context } from "../kit";

const window = 15 * 60_000;
export const triesPerAccount = 8;
export const triesPerAddress = 40;

/** Counts a try for the account and for the address; false when either has had too many in 15 minutes. */
export async function withinLimits(
  { repo, now, sealer, actor }: Context,
  what: string,
  account: string,
): Promise<boolean> {
  const start = laterBy(now, -window);
  const byAccount = await repo.limits.count(
    `${what}:account:${sealer.keyedDigest("limit", account.toLowerCase())}`,
    now,
    start,
  );
  const byAddress = await repo.limits.count(
    `${what}:address:${sealer.keyedDigest("limit", actor.address)}`,
    now,
    start,
  );
  return byAccount <= triesPerAccount && byAddress <= triesPerAddress;
}
export const clearAccountLimit = ({ repo, sealer }: Context, what: string, account: string): Promise<void> =>
  repo.limits.clear(`${what}:account:${sealer.keyedDigest("limit", account.toLowerCase())}`);

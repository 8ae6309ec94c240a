import { laterBy, type Instant } from "../../core/shared";
import type { Context } from "../kit";

const window = 15 * 60_000;
const triesPerAccount = 8;
const triesPerAddress = 40;

/**
 * Counts a try for the account and for the address; false when either has had too many in 15 minutes. For what takes a
 * session already.
 */
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

/** How many wrong passwords are free before the first wait. */
export const freeTries = {
  /** For one account, from one place. */
  here: 5,
  /** For one account, from everywhere but devices it was signed in on before. */
  account: 20,
  /** From one place, for any account. */
  place: 40,
} as const;
const firstWait = 30_000;
const longestWait = 15 * 60_000;
const forgottenAfter = 24 * 3_600_000;
/** Twice as long each time, up to a quarter of an hour: a lock for ever would be anybody's to turn. */
export const waitAfter = (wrong: number, free: number): number =>
  wrong <= free ? 0 : Math.min(longestWait, firstWait * 2 ** Math.min(10, wrong - free - 1));

/** A place is an IPv4 address, or the first half of an IPv6 one, which one household has whole. */
const placeOf = (address: string): string =>
  address.includes(":") ? address.split(":").slice(0, 4).join(":") : address;

export interface PasswordTries {
  /** Until when nobody is let try; undefined when a try counts. */
  waitsUntil(): Promise<Instant | undefined>;
  /** Counts a wrong password. Gives how many there were for the account from everywhere, or 0 on a known device. */
  wrong(): Promise<number>;
  right(): Promise<void>;
}
/**
 * Wrong passwords for an account are counted by where they come from; a device that was signed in on before is a place
 * of its own, so that no stranger holds it up.
 */
export function passwordTries(
  { repo, now, sealer, actor }: Context,
  account: string,
  knownDevice: string | undefined,
): PasswordTries {
  const key = (what: string, of: string): string => `password:${what}:${sealer.keyedDigest("limit", of)}`;
  const who = account.toLowerCase();
  const place = placeOf(actor.address);
  const counted: readonly (readonly [key: string, free: number])[] =
    knownDevice === undefined
      ? [
          [key("account", who), freeTries.account],
          [key("here", `${who} ${place}`), freeTries.here],
          [key("place", place), freeTries.place],
        ]
      : [[key("device", `${who} ${knownDevice}`), freeTries.here]];
  return {
    waitsUntil: () =>
      repo.limits.waitsUntil(
        counted.map(([each]) => each),
        now,
      ),
    async wrong() {
      const counts: number[] = [];
      for (const [each, free] of counted) {
        const count = await repo.limits.count(each, now, laterBy(now, -forgottenAfter));
        const wait = waitAfter(count, free);
        if (wait > 0) await repo.limits.wait(each, laterBy(now, wait));
        counts.push(count);
      }
      return knownDevice === undefined ? counts[0]! : 0;
    },
    async right() {
      // What others tried elsewhere stays counted.
      await repo.limits.clear(knownDevice === undefined ? counted[1]![0] : counted[0]![0]);
    },
  };
}

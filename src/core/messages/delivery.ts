import { laterBy, type Instant } from "../shared";

/**
 * Where a message stands. `sending`: handed to a server outside, whose answer is not in yet. `unsure`: the server may
 * have it, but hung up before saying so; it is not sent a second time unless somebody says so.
 */
export const postStates = ["queued", "sending", "delivered", "bounced", "unsure"] as const;
export type PostState = (typeof postStates)[number];

/** What the Post room's own server and phone do with what comes in. */
export const postSimulations = ["deliver", "bounce", "slow"] as const;
export type PostSimulation = (typeof postSimulations)[number];

/** What became of one try. `later`: nothing was taken, and trying again makes sense. */
export type Delivery =
  { readonly outcome: "delivered" } | { readonly outcome: "bounced" | "later" | "unsure"; readonly trouble: string };

const waits = [1, 5, 30, 120, 360].map((minutes) => minutes * 60_000);
export interface PostSet {
  readonly state: PostState;
  readonly nextAt: Instant | null;
  readonly trouble: string | null;
}

/**
 * What is recorded after the `attempts`th try: waits grow from a minute to six hours, and after the sixth try it counts
 * as bounced.
 */
export function afterTry(delivery: Delivery, attempts: number, now: Instant): PostSet {
  if (delivery.outcome === "delivered") return { state: "delivered", nextAt: null, trouble: null };
  const wait = delivery.outcome === "later" ? waits[attempts - 1] : undefined;
  if (wait !== undefined) return { state: "queued", nextAt: laterBy(now, wait), trouble: delivery.trouble };
  return { state: delivery.outcome === "unsure" ? "unsure" : "bounced", nextAt: null, trouble: delivery.trouble };
}

/**
 * What became of the newest letter to somebody, where it did not simply arrive. `waiting`: tried, not taken, tried
 * again later.
 */
export type LetterTrouble = "bounced" | "unsure" | "waiting";
const worstFirst: readonly LetterTrouble[] = ["bounced", "unsure", "waiting"];
const ownTrouble = (letter: {
  readonly state: PostState;
  readonly trouble: string | null;
}): LetterTrouble | undefined => {
  if (letter.state === "bounced" || letter.state === "unsure") return letter.state;
  return letter.state === "queued" && letter.trouble !== null ? "waiting" : undefined;
};
/**
 * The worst that happened to the newest letter of each person, or nothing where each of those arrived or is on its
 * first way.
 * @param letters of one packet, oldest first, codes not among them.
 */
export function letterTrouble(
  letters: readonly { readonly toName: string; readonly state: PostState; readonly trouble: string | null }[],
): LetterTrouble | undefined {
  const newest = new Map(letters.map((letter) => [letter.toName, letter]));
  const all = [...newest.values()].map(ownTrouble);
  return worstFirst.find((trouble) => all.includes(trouble));
}

import type { LetterTrouble } from "../messages";
import { isBefore, type Instant } from "../shared";

/** Where a packet stands. `lapsed` is never stored: it is `sent`, `opened` or `under way` after the expiry. */
export const packetStates = [
  "ready",
  "sent",
  "opened",
  "under-way",
  "returned",
  "sent-back",
  "settled",
  "lapsed",
  "withdrawn",
] as const;
export type PacketState = (typeof packetStates)[number];

export const packetStateWords: Record<PacketState, string> = {
  ready: "Ready",
  sent: "Sent",
  opened: "Opened",
  "under-way": "Under way",
  returned: "Returned",
  "sent-back": "Sent back",
  settled: "Settled",
  lapsed: "Lapsed",
  withdrawn: "Withdrawn",
};

/** States in which the client can still answer. */
export const isOpen = (state: PacketState): boolean =>
  state === "sent" || state === "opened" || state === "under-way" || state === "sent-back";

export const stateAt = (stored: Exclude<PacketState, "lapsed">, expiresAt: Instant, now: Instant): PacketState =>
  isOpen(stored) && !isBefore(now, expiresAt) ? "lapsed" : stored;

/**
 * A packet whose link asks each session: it came back on an earlier day than today, both in the practice's zone, and
 * its time is not over.
 */
export const asksAgain = (
  packet: { readonly repeats: boolean; readonly state: Exclude<PacketState, "lapsed">; readonly expiresAt: Instant },
  now: Instant,
  returnedOn: string | undefined,
  today: string,
): boolean =>
  packet.repeats &&
  (packet.state === "returned" || packet.state === "settled") &&
  isBefore(now, packet.expiresAt) &&
  returnedOn !== undefined &&
  returnedOn < today;

type Step = "send" | "pass-door" | "answer" | "return" | "send-back" | "settle" | "reopen" | "withdraw";
const steps: Record<Step, Partial<Record<PacketState, Exclude<PacketState, "lapsed">>>> = {
  send: { ready: "sent" },
  "pass-door": { sent: "opened", opened: "opened", "under-way": "under-way", "sent-back": "sent-back" },
  answer: { opened: "under-way", "under-way": "under-way", "sent-back": "sent-back", sent: "under-way" },
  return: { opened: "returned", "under-way": "returned", "sent-back": "returned" },
  "send-back": { returned: "sent-back" },
  settle: { returned: "settled", settled: "settled" },
  reopen: { settled: "returned", returned: "returned" },
  withdraw: {
    ready: "withdrawn",
    sent: "withdrawn",
    opened: "withdrawn",
    "under-way": "withdrawn",
    "sent-back": "withdrawn",
  },
};
/** The state after a step, or undefined when the step cannot be taken from here. */
export const after = (state: PacketState, step: Step): Exclude<PacketState, "lapsed"> | undefined => steps[step][state];

/** How ready a visit is, worst thing first, in words for the Day sheet's margin. */
export interface Readiness {
  readonly mark: PacketMark;
  readonly words: string;
  /** What to do next, if anything. */
  readonly next: "send" | "reach" | "reissue" | "read" | "reconcile" | "none";
}
/** How a packet is marked: its state, or what keeps it from going on. */
export type PacketMark = PacketState | "none" | "locked" | "unreached";
const unreachedWords: Readonly<Record<LetterTrouble, string>> = {
  bounced: "Letter bounced",
  unsure: "Letter may be lost",
  waiting: "Letter not out yet",
};
/** While a packet is here a letter that did not arrive matters: nobody opened what it brought. */
export const unopened = ["sent", "sent-back"] as const satisfies readonly PacketState[];
export const isUnreached = (state: PacketState, letter: LetterTrouble | undefined): letter is LetterTrouble =>
  letter !== undefined && (unopened as readonly PacketState[]).includes(state);
/** A packet's state as it is listed. */
export const markAndWords = (
  state: PacketState,
  letter?: LetterTrouble,
): { readonly mark: PacketMark; readonly words: string } =>
  isUnreached(state, letter)
    ? { mark: "unreached", words: unreachedWords[letter] }
    : { mark: state, words: packetStateWords[state] };
export interface PacketGlance {
  readonly state: PacketState;
  readonly locked: boolean;
  readonly answered: number;
  readonly alerts: number;
  readonly letter?: LetterTrouble | undefined;
}
export function readinessOf(packets: readonly PacketGlance[]): Readiness {
  const live = packets.filter((p) => p.state !== "withdrawn");
  const latest = live.at(-1);
  if (!latest) return { mark: "none", words: "Nothing sent", next: "send" };
  if (latest.locked && isOpen(latest.state))
    return { mark: "locked", words: "Door locked: wrong codes", next: "reissue" };
  if (isUnreached(latest.state, latest.letter)) return { ...markAndWords(latest.state, latest.letter), next: "reach" };
  switch (latest.state) {
    case "returned":
      return {
        mark: "returned",
        words: latest.alerts > 0 ? "Returned, read first" : "Returned, not charted",
        next: "read",
      };
    case "settled":
      return { mark: "settled", words: "Settled", next: "none" };
    case "under-way":
      return { mark: "under-way", words: `Under way, ${latest.answered} answered`, next: "none" };
    case "opened":
      return { mark: "opened", words: "Opened, not begun", next: "none" };
    case "sent":
      return { mark: "sent", words: "Sent, not opened", next: "none" };
    case "lapsed":
      return { mark: "lapsed", words: "Link expired", next: "reissue" };
    default:
      return { mark: latest.state, words: packetStateWords[latest.state], next: "none" };
  }
}

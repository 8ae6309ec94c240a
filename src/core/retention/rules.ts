import { addMonths, type Day } from "../scheduling";

/**
 * For how long what is kept. Which lengths are right is the law's where the practice works, and so the practice's to
 * set: there are no starting ones, and what has no rule is kept.
 */
export interface RetentionRules {
  /** Whole records: years after the last contact. */
  readonly record?: number;
  /** Records of those who were young at the last contact: not before this age, in years. */
  readonly minorsUntil?: number;
  /** Letters and texts that went out: months. */
  readonly letters?: number;
  /** What was typed into packets that never came back: months after they lapsed or were withdrawn. */
  readonly unreturned?: number;
}
export const retentionKinds = ["record", "letters", "unreturned"] as const;
export type RetentionKind = (typeof retentionKinds)[number];

/**
 * The first day on which a client's record may go: so many years after the last contact, and for whoever was not of
 * `minorsUntil` then, not before they are. Undefined where no rule says so.
 */
export function recordDueOn(
  { record, minorsUntil }: RetentionRules,
  { lastContact, birthDate }: { readonly lastContact: Day; readonly birthDate: Day | undefined },
): Day | undefined {
  if (record === undefined) return undefined;
  const byContact = addMonths(lastContact, record * 12);
  if (minorsUntil === undefined || birthDate === undefined) return byContact;
  const grown = addMonths(birthDate, minorsUntil * 12);
  return grown > byContact ? grown : byContact;
}

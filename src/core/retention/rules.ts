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
export const retentionWords: Readonly<Record<RetentionKind, string>> = {
  record: "Records of clients",
  letters: "Letters and texts",
  unreturned: "What was typed into packets that never came back",
};

const pad = (n: number, to: number): string => String(n).padStart(to, "0");
/** A day so many months later, the last of the month where there is no such day. Days as YYYY-MM-DD. */
function monthsAfter(day: string, months: number): string {
  const [year, month, date] = day.split("-").map(Number) as [number, number, number];
  const total = year * 12 + (month - 1) + months;
  const [toYear, toMonth] = [Math.floor(total / 12), (total % 12) + 1];
  const last = new Date(Date.UTC(toYear, toMonth, 0)).getUTCDate();
  return `${pad(toYear, 4)}-${pad(toMonth, 2)}-${pad(Math.min(date, last), 2)}`;
}

/**
 * The first day on which a client's record may go: so many years after the last contact, and for whoever was not of
 * `minorsUntil` then, not before they are. Undefined where no rule says so. Days as YYYY-MM-DD.
 */
export function recordDueOn(
  { record, minorsUntil }: RetentionRules,
  { lastContact, birthDate }: { readonly lastContact: string; readonly birthDate: string | undefined },
): string | undefined {
  if (record === undefined) return undefined;
  const byContact = monthsAfter(lastContact, record * 12);
  if (minorsUntil === undefined || birthDate === undefined) return byContact;
  const grown = monthsAfter(birthDate, minorsUntil * 12);
  return grown > byContact ? grown : byContact;
}

/** Whether what began on a day is so many months old by another. Days as YYYY-MM-DD. */
export const isDueOn = (from: string, months: number, today: string): boolean => monthsAfter(from, months) <= today;

import { instantMs, isInstant, type Instant } from "../shared";

/** By when it was made, so that names sort as they came. */
export const backupName = (at: Instant): string =>
  `kind-ledger-${at.replace(/\.\d+Z$/, "Z").replaceAll(":", "")}.tar.age`;
/** When a backup of that name was made; undefined for another file. */
export function momentOf(name: string): Instant | undefined {
  const found = /^kind-ledger-(\d{4}-\d\d-\d\d)T(\d\d)(\d\d)(\d\d)Z\.tar\.age$/.exec(name);
  if (!found) return undefined;
  const at = `${found[1]}T${found[2]}:${found[3]}:${found[4]}.000Z`;
  return isInstant(at) ? at : undefined;
}
const day = 86_400_000;
const spans = [
  { each: day, many: 7 },
  { each: 7 * day, many: 5 },
  { each: 30 * day, many: 12 },
] as const;
/**
 * Which backups stay: the newest always, and of each of the last 7 days, 5 weeks and 12 times 30 days the first one made
 * in it. Counted from a fixed moment, so that one that stays today as a week's stays tomorrow too.
 */
export function keptBackups(made: readonly Instant[]): ReadonlySet<Instant> {
  const oldestFirst = made.toSorted((one, other) => instantMs(one) - instantMs(other));
  const newest = oldestFirst.at(-1);
  const kept = new Set<Instant>(newest ? [newest] : []);
  for (const { each, many } of spans) {
    const firsts = new Map<number, Instant>();
    for (const at of oldestFirst) {
      const span = Math.floor(instantMs(at) / each);
      if (!firsts.has(span)) firsts.set(span, at);
    }
    for (const at of [...firsts.values()].slice(-many)) kept.add(at);
  }
  return kept;
}

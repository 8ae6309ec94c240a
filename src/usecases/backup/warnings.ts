import { lateAfter, lowDisk, type Warning } from "../../core/backup";
import { instantMs, ok, type Instant, type Result } from "../../core/shared";
import { nothing, query, type Context } from "../kit";

const day = 86_400_000;
const minute = 60_000;
/** Clocks of two machines differ by so much without anything being wrong, in ms. */
const clocksDiffer = 5 * minute;

/** What is wrong with the installation just now, as far as it can be seen from inside. */
export async function warningsOf(
  ctx: Pick<Context, "repo" | "practice" | "now" | "watch" | "keptHeads">,
): Promise<Warning[]> {
  const { repo, practice, now, watch, keptHeads } = ctx;
  const found: Warning[] = [];
  const daysSince = (at: Instant): number => Math.floor((instantMs(now) - instantMs(at)) / day);
  const backup = watch.newestBackup();
  if (!watch.backupsAreSet) {
    if (watch.isForReal) found.push({ kind: "no-backups" });
  } else {
    const days = daysSince(backup ?? practice.createdAt);
    if (days >= lateAfter.backup) found.push({ kind: "backup-late", days });
  }
  const { troubled } = await repo.outbox.backlog(practice.id);
  if (troubled > 0) found.push({ kind: "mail-failing", letters: troubled });
  const free = watch.free();
  if (free < lowDisk) found.push({ kind: "disk-low", megabytes: Math.floor(free / 1_000_000) });
  const [newest] = await repo.journal.latest(practice.id, 1);
  const ahead = newest ? instantMs(newest.at) - instantMs(now) : 0;
  if (ahead > clocksDiffer) found.push({ kind: "clock-back", minutes: Math.round(ahead / minute) });
  if (watch.keyIsOpen()) found.push({ kind: "key-open" });
  const kept = keptHeads.all().findLast((head) => head.practiceId === practice.id);
  const anchored = kept && newest && kept.seq < newest.seq ? daysSince(kept.at) : 0;
  if (anchored >= lateAfter.anchor) found.push({ kind: "anchor-late", days: anchored });
  return found;
}
export interface Safekeeping {
  readonly warnings: readonly Warning[];
}
/** For the owner: what is wrong. */
export const safekeeping = query({
  name: "safekeeping",
  access: "staff.manage",
  input: nothing,
  async run(ctx): Promise<Result<Safekeeping, never>> {
    return ok({ warnings: await warningsOf(ctx) });
  },
});

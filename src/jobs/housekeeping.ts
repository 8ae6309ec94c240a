import { laterBy } from "../core/shared";
import { withoutValues } from "../db/errors";
import { markedHead, repositories } from "../db/repositories";
import type { Application } from "../server/application";

/**
 * Keeps where the journal stands outside the database, so that nobody with the database alone can cut its end off or
 * write it anew unseen.
 */
export async function keepHead(app: Application): Promise<void> {
  const practice = await app.practice();
  if (!practice) return;
  const { sealer, keptHeads, clock } = app.ports;
  const { seq, hash } = await withoutValues(() => repositories(app.database.db, sealer).journal.head(practice.id));
  if (seq > 0) keptHeads.keep(markedHead(sealer, { practiceId: practice.id, seq, hash, at: clock.now() }));
}
/** Longest window that anything is counted in. */
const longestWindow = 24 * 3_600_000;
/** How long the lines of a file of clients are kept that nobody dropped. */
const importsKeptFor = 30 * 24 * 3_600_000;
/** Forgets what was counted in windows that are over, and files of clients that nobody went on with. */
export async function tidy(app: Application): Promise<void> {
  const { limits, clientImports } = repositories(app.database.db, app.ports.sealer);
  const now = app.ports.clock.now();
  await withoutValues(() => limits.clearOld(laterBy(now, -longestWindow)));
  await withoutValues(() => clientImports.clearOld(laterBy(now, -importsKeptFor)));
}

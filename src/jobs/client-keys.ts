import { laterBy } from "../core/shared";
import { withoutValues } from "../db/errors";
import { repositories } from "../db/repositories";
import type { Application } from "../server/application";
import { resealSecrets, secretsAreCurrent } from "../server/keys";

/** Longer than any transaction may be open, in ms: what began before a key was destroyed is over by then. */
const longestOpen = 120_000;
/** Writes the clients' keys anew where some were destroyed, so that these lie nowhere in the database's files. */
export async function scrubKeys({ database, ports }: Application): Promise<boolean> {
  const now = ports.clock.now();
  const { clientKeys } = repositories(database.db, ports.sealer);
  return withoutValues(() => clientKeys.scrub(laterBy(now, -longestOpen), now));
}
/** Somebody was erased, here or in another process: no key is known any more that was not asked for again. */
export async function heardErased(app: Application): Promise<void> {
  app.ports.sealer.clientKeys.forget();
  await scrubKeys(app);
}

const keysAtOnce = 500;
/**
 * Seals the small keys with the first key of the ring, some at a time while everything goes on; afterwards nothing needs
 * the older ones.
 */
export async function resealKeys(
  app: Application,
  tell: (done: number, all: number) => void = () => undefined,
): Promise<number> {
  const { database, ports } = app;
  await withoutValues(() => resealSecrets(app));
  const all = await withoutValues(() => repositories(database.db, ports.sealer).clientKeys.countOld());
  let done = 0;
  while (done < all) {
    const some = await withoutValues(() =>
      database.db.transaction((db) => repositories(db, ports.sealer).clientKeys.resealSome(keysAtOnce)),
    );
    if (some === 0) break;
    tell((done += some), all);
  }
  return done;
}
/** How many are still sealed with an older installation key, the installation's own secrets counted as one. */
export async function keysLeft(app: Application): Promise<number> {
  const { clientKeys } = repositories(app.database.db, app.ports.sealer);
  return (await clientKeys.countOld()) + ((await secretsAreCurrent(app)) ? 0 : 1);
}

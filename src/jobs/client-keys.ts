import type { KeptErasure } from "../core/audit";
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
  await keepErasures(app);
  await scrubKeys(app);
}
const markOf = (app: Application, { clientId, staffId, by, at }: Omit<KeptErasure, "mark">): string =>
  app.ports.sealer.mark(`erased ${clientId} ${staffId} ${at} ${by}`);
const mostErasures = 100_000;
async function keepErasures(app: Application): Promise<void> {
  const { clientErasures } = repositories(app.database.db, app.ports.sealer);
  const all = await withoutValues(() => clientErasures.all(mostErasures));
  app.ports.keptErasures.keep(
    all.map(({ clientId, staffId, by, at }) => {
      const erasure = { clientId, staffId, by, at };
      return { ...erasure, mark: markOf(app, erasure) };
    }),
  );
}
/**
 * Erases again whom a backup from before brought back; gives how many. Only what was marked with the key counts: nobody
 * erases anybody by writing into a file.
 */
export async function eraseAgain(app: Application): Promise<number> {
  const practice = await withoutValues(() => app.practice());
  if (!practice) return 0;
  await keepErasures(app);
  const { ports, database } = app;
  let many = 0;
  for (const kept of ports.keptErasures.all()) {
    if (kept.mark !== markOf(app, kept)) continue;
    const { clientErasures, clients } = repositories(database.db, ports.sealer);
    if (await withoutValues(() => clientErasures.isErased(kept.clientId))) continue;
    if (!(await withoutValues(() => clients.byId(practice.id, kept.clientId)))) continue;
    await withoutValues(() =>
      database.db.transaction(async (db) => {
        const repo = repositories(db, ports.sealer);
        await repo.clients.hold(practice.id, kept.clientId);
        await repo.clientErasures.erase(kept.clientId, {
          name: kept.by,
          staffId: kept.staffId,
          at: ports.clock.now(),
          reason: `Erased on ${kept.at.slice(0, 10)}, and again after a backup from before was restored`,
        });
        await repo.journal.write(practice.id, ports.clock.now(), [
          { actor: "system", action: "client.erase", subject: `client:${kept.clientId}`, address: "", detail: {} },
        ]);
      }),
    );
    many++;
  }
  if (many > 0) await heardErased(app);
  return many;
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

import { spawn } from "node:child_process";
import { log } from "../server/log";
import { instantMs } from "../core/shared";
import { withoutValues } from "../db/errors";
import { repositories } from "../db/repositories";
import type { Application } from "../server/application";
import { warningsOf } from "../usecases/backup";

/** Notes whether the database is still this version's: what is not known is not served. */
export async function lookAtVersion(app: Application): Promise<void> {
  const isOther = await withoutValues(() => app.database.isOther());
  if (isOther && app.state.fits)
    log.error(
      "Another version has brought the database to tables this one does not know. Nothing is served any more; start the version that did.",
    );
  app.state.fits = !isOther;
}
/** Counts what the owner is warned of, for the metrics. */
export async function countWarnings(app: Application): Promise<void> {
  const practice = await withoutValues(() => app.practice());
  if (!practice) return;
  const { ports, database } = app;
  const found = await withoutValues(() =>
    warningsOf({ ...ports, repo: repositories(database.db, ports.sealer), practice, now: ports.clock.now() }),
  );
  if (found.length > 0 && found.length !== app.state.warnings)
    log.warn("The owner is warned.", { of: found.map(({ kind }) => kind).join(" ") });
  app.state.warnings = found.length;
}
const day = 86_400_000;
const running = new WeakSet<Application>();
/**
 * Makes the day's backup, in a process of its own, where one is due. One at a time; what failed is tried again in the
 * next round.
 */
export async function backUpDaily(app: Application): Promise<void> {
  const { watch, clock } = app.ports;
  if (!watch.backupsAreSet || running.has(app) || !(await withoutValues(() => app.practice()))) return;
  const newest = watch.newestBackup();
  if (newest !== undefined && instantMs(clock.now()) - instantMs(newest) < day) return;
  running.add(app);
  const child = spawn(process.execPath, ["--import", "tsx", "scripts/kind.ts", "backup"], {
    stdio: ["ignore", "ignore", "pipe"],
  });
  let said = "";
  child.stderr.on("data", (part: Buffer) => (said = `${said}${part.toString()}`.slice(-500)));
  child.on("error", () => running.delete(app));
  child.on("close", (code) => {
    running.delete(app);
    if (code === 0) log.info("The day’s backup was made.");
    else log.error("The day’s backup failed.", { said: said.trim() });
  });
}

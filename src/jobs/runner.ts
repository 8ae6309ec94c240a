import { log, nameOfError } from "../server/log";
import { checkPaperFile } from "../server/paper-check";
import type { Application } from "../server/application";
import { backUpDaily, countWarnings, lookAtVersion } from "./watch";
import { eraseAgain, heardErased, keysLeft, resealKeys, scrubKeys } from "./client-keys";
import { makeCourses } from "./courses";
import { escalateAlerts } from "./alerts";
import { keepHead, lookAfterTables, mailAnchors, tidy } from "./housekeeping";
import { lookAfterPost, recoverPost, stopPost } from "./letters";
import { runImports, stopImports } from "./imports";
import { runSchedules, stopSchedules } from "./measures";
import { runMailings, stopMailings } from "./mailings";
import { runSeals, stopSeals } from "./seals";

interface Job {
  readonly what: string;
  /** In ms. */
  readonly every: number;
  readonly round: (app: Application) => Promise<unknown>;
}
/**
 * What goes on by itself in every process. Rows say who has what and until when, so that any of them takes over what
 * another left.
 */
const jobs: readonly Job[] = [
  { what: "handing over letters", every: 5_000, round: lookAfterPost },
  { what: "writing to many", every: 5_000, round: runMailings },
  { what: "bringing clients in", every: 5_000, round: runImports },
  { what: "sealing papers", every: 5_000, round: runSeals },
  { what: "keeping the journal's head", every: 10_000, round: keepHead },
  { what: "writing keys anew", every: 60_000, round: scrubKeys },
  { what: "sealing keys anew", every: 60_000, round: resealKeys },
  { what: "looking at the database's version", every: 10_000, round: lookAtVersion },
  { what: "looking for what the owner is warned of", every: 60_000, round: countWarnings },
  { what: "making the day's backup", every: 600_000, round: backUpDaily },
  { what: "working out scores over time", every: 5_000, round: makeCourses },
  { what: "asking for measures", every: 60_000, round: runSchedules },
  { what: "telling owners of alerts that stay open", every: 60_000, round: escalateAlerts },
  { what: "mailing the journal's anchor", every: 600_000, round: mailAnchors },
  { what: "looking after the tables", every: 600_000, round: lookAfterTables },
  { what: "tidying up", every: 3_600_000, round: tidy },
];
const timers = new WeakMap<Application, NodeJS.Timeout[]>();
/** What another process on the same database says is to be done in this one, too. */
const heard: Readonly<Record<string, (app: Application) => Promise<unknown>>> = {
  erased: heardErased,
  seal: runSeals,
  migrated: lookAtVersion,
  keys: (app) => {
    app.keys.wrap.reread();
    return resealKeys(app);
  },
};

/**
 * Goes on with what was left, and looks again every few seconds. A round that fails is said, and the next one tries
 * again.
 */
export async function startJobs(app: Application): Promise<void> {
  const go = (what: string, round: (app: Application) => Promise<unknown>): void => {
    round(app).catch((error: unknown) => {
      log.warn(`${what} failed.`, { error: nameOfError(error) });
    });
  };
  timers.set(
    app,
    jobs.map(({ what, every, round }) => setInterval(() => go(what, round), every).unref()),
  );
  app.database.answers?.set("keys", async () => {
    app.keys.wrap.reread();
    return String(await resealKeys(app));
  });
  app.database.answers?.set("check-paper", async (path) => JSON.stringify(await checkPaperFile(app, path)));
  app.database.answers?.set("keys-left", async () => String(await keysLeft(app)));
  for (const [channel, round] of Object.entries(heard))
    await app.database.listen(channel, () => go(`what was heard of ${channel}`, round));
  await eraseAgain(app);
  await keepHead(app);
  await tidy(app);
  await recoverPost(app);
  await runMailings(app);
  await runImports(app);
  go("looking after the tables", lookAfterTables);
  await countWarnings(app);
  await backUpDaily(app);
}
/** Begins nothing more; what is under way, a letter or a person, is finished. */
export async function stopJobs(app: Application): Promise<void> {
  for (const timer of timers.get(app) ?? []) clearInterval(timer);
  await Promise.all([stopPost(app), stopMailings(app), stopSchedules(app), stopImports(app), stopSeals(app)]);
}

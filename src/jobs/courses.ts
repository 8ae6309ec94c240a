import { withoutValues } from "../db/errors";
import { repositories } from "../db/repositories";
import type { Application } from "../server/application";
import { pointsOfClients } from "../usecases/measures";

const mostInRound = 100;
/**
 * Makes what clients' scores came to where something of them changed, so that whoever opens the caseload waits for few.
 * One round at a time, each short: the embedded database answers nothing else meanwhile.
 */
export async function makeCourses(app: Application): Promise<void> {
  const practice = await withoutValues(() => app.practice());
  if (!practice) return;
  await withoutValues(() =>
    app.database.db.transaction(async (db) => {
      const repo = repositories(db, app.ports.sealer);
      await pointsOfClients({ repo, practice }, await repo.courses.stale(practice.id, mostInRound));
    }),
  );
}

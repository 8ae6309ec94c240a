import type { JournalBreak } from "../core/audit";
import { repositories } from "../db/repositories";
import { rowsAtOnce } from "../usecases/audit";
import type { Application } from "./application";

/** Walks the whole journal, from the first row. Gives what is broken first, and how many rows hold. */
export async function walkJournal(
  app: Application,
  tell: (seq: number, head: number) => void = () => undefined,
): Promise<{ readonly rows: number; readonly broken: JournalBreak | undefined }> {
  const practice = await app.practice();
  if (!practice) return { rows: 0, broken: undefined };
  for (let seq = 0; ;) {
    const kept = app.ports.keptHeads.all();
    const { journalCheck } = repositories(app.database.db, app.ports.sealer);
    const step = await journalCheck.step(practice.id, seq, rowsAtOnce, kept);
    ({ seq } = step);
    tell(seq, step.head);
    if (step.done) return { rows: seq, broken: step.broken };
  }
}

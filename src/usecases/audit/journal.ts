import { ok, type Result } from "../../core/shared";
import type { JournalRow } from "../../db/repositories";
import { nothing, query } from "../kit";

export interface JournalView {
  readonly rows: readonly JournalRow[];
  /** The first row that does not fit the chain; undefined when all do. */
  readonly firstBroken: number | undefined;
  readonly people: Readonly<Record<string, string>>;
}
/** The newest rows, and whether the whole chain holds. */
export const journalView = query({
  name: "journal-view",
  access: "journal.read",
  input: nothing,
  async run(ctx): Promise<Result<JournalView, never>> {
    const { repo, practice } = ctx;
    ctx.journal("journal.view", "practice");
    return ok({
      rows: await repo.journal.latest(practice.id, 200),
      firstBroken: await repo.journal.firstBroken(practice.id),
      people: Object.fromEntries((await repo.staff.all(practice.id)).map((s) => [`staff:${s.id}`, s.name])),
    });
  },
});

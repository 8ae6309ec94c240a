import { number, object } from "yup";
import type { JournalBreak, KeptHead } from "../../core/audit";
import { ok, type Instant, type Result } from "../../core/shared";
import type { JournalRow, Refusal } from "../../db/repositories";
import { nothing, query, type CommonError } from "../kit";

export interface JournalView {
  readonly rows: readonly JournalRow[];
  /** How many rows there are. */
  readonly head: number;
  /** Up to where it was walked last, and when. */
  readonly checked: Pick<KeptHead, "seq" | "at"> | undefined;
  /** Where it stood when that was last kept outside the database. */
  readonly kept: Pick<KeptHead, "seq" | "at"> | undefined;
  readonly refusals: readonly Refusal[];
  readonly people: Readonly<Record<string, string>>;
}
/** The newest rows, and what is known of the chain so far: walking it is `checkJournal`'s, a piece at a time. */
export const journalView = query({
  name: "journal-view",
  access: "journal.read",
  input: nothing,
  async run(ctx): Promise<Result<JournalView, never>> {
    const { repo, practice, keptHeads } = ctx;
    ctx.journal("journal.view", "practice");
    const rows = await repo.journal.latest(practice.id, 200);
    return ok({
      rows,
      head: rows[0]?.seq ?? 0,
      checked: await repo.journal.checked(practice.id),
      kept: keptHeads.all().findLast((k) => k.practiceId === practice.id),
      refusals: await repo.journal.refusals(practice.id, 50),
      people: Object.fromEntries((await repo.staff.all(practice.id)).map((s) => [`staff:${s.id}`, s.name])),
    });
  },
});

/** Rows looked at in one go: about a tenth of a second. */
export const rowsAtOnce = 2000;
export interface JournalProgress {
  readonly seq: number;
  readonly head: number;
  readonly done: boolean;
  readonly broken: JournalBreak | undefined;
  readonly at: Instant;
}
/**
 * Walks the next rows of the journal's chain after `from`; without it, from where it was walked last. How far it came
 * is remembered under a key, and only where nothing before was left out. Asking again with what it gave goes on.
 */
export const checkJournal = query({
  name: "check-journal",
  access: "journal.read",
  input: object({ from: number().integer().min(0) }),
  async run(ctx, { from }): Promise<Result<JournalProgress, CommonError>> {
    const { repo, practice, keptHeads, now } = ctx;
    const checked = await repo.journal.checked(practice.id);
    // Before the head is read: what is kept is never further on than the head. The chain went through where it was
    // walked last, too.
    const kept = [...keptHeads.all(), ...(checked ? [checked] : [])];
    const begin = from ?? checked?.seq ?? 0;
    const step = await repo.journalCheck.step(practice.id, begin, rowsAtOnce, kept);
    if (!step.broken && begin <= (checked?.seq ?? 0))
      await repo.journal.setChecked({ practiceId: practice.id, seq: step.seq, hash: step.hash, at: now });
    if (step.done) ctx.journal("journal.check", "practice", { rows: step.seq, holds: !step.broken });
    return ok({ seq: step.seq, head: step.head, done: step.done, broken: step.broken, at: now });
  },
});

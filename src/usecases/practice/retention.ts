import { mixed, number, object } from "yup";
import { nameOf } from "../../core/chart";
import { retentionSchema } from "../../core/forms";
import { recordDueOn, retentionKinds, type RetentionKind, type RetentionRules } from "../../core/retention";
import { addMonths, boundsOf, dayIn } from "../../core/scheduling";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, query, type CommonError, type Context, type StaffActor } from "../kit";

export interface DueRecord {
  readonly id: Id<"Client">;
  readonly name: string;
  /** YYYY-MM-DD, in the practice's zone. */
  readonly lastContact: string;
  readonly dueOn: string;
}
export interface Retention {
  readonly rules: RetentionRules;
  /** Whose record may go by now, longest due first; so many of `records`. */
  readonly due: readonly DueRecord[];
  readonly records: number;
  readonly letters: number;
  readonly unreturned: number;
  readonly erased: readonly { readonly at: Instant; readonly by: string; readonly reason: string }[];
}
const mostShown = 100;
/** When the day began that is so many months ago. */
const monthsBefore = ({ now, practice }: Context, months: number): Instant =>
  boundsOf(addMonths(dayIn(now, practice.zone), -months), practice.zone)[0];
async function dueRecords(ctx: Context<StaffActor>): Promise<DueRecord[]> {
  const { repo, practice, now } = ctx;
  const { retention: rules } = practice;
  if (rules.record === undefined) return [];
  const today = dayIn(now, practice.zone);
  const directory = await ctx.directory();
  const found = (await repo.retention.lastContacts(practice.id)).flatMap(({ id, at }): DueRecord[] => {
    const client = directory.byId(id);
    const lastContact = dayIn(at, practice.zone);
    const dueOn = client && recordDueOn(rules, { lastContact, birthDate: client.birthDate });
    return dueOn && dueOn <= today ? [{ id, name: nameOf(client), lastContact, dueOn }] : [];
  });
  return found.toSorted((one, other) => one.dueOn.localeCompare(other.dueOn));
}
/** For how long what is kept, and what is due by now. Nothing goes by itself. */
export const retention = query({
  name: "retention",
  access: "clients.erase",
  input: object({ from: number().integer().min(0).default(0) }),
  async run(ctx, { from }): Promise<Result<Retention, CommonError>> {
    const { repo, practice } = ctx;
    const { retention: rules } = practice;
    const due = await dueRecords(ctx);
    return ok({
      rules,
      due: due.slice(from, from + mostShown),
      records: due.length,
      letters:
        rules.letters === undefined
          ? 0
          : await repo.retention.countLetters(practice.id, monthsBefore(ctx, rules.letters)),
      unreturned:
        rules.unreturned === undefined
          ? 0
          : await repo.retention.countUnreturned(practice.id, monthsBefore(ctx, rules.unreturned)),
      erased: await repo.clientErasures.all(mostShown),
    });
  },
});
export const saveRetention = command({
  name: "save-retention",
  access: "clients.erase",
  input: retentionSchema,
  async run(ctx, given): Promise<Result<null, CommonError>> {
    const rules = Object.fromEntries(
      Object.entries(given).filter(([, value]) => value !== undefined),
    ) as RetentionRules;
    await ctx.repo.practices.setRetention(ctx.practice.id, rules);
    ctx.journal("practice.retention", "practice", { ...rules });
    return ok(null);
  },
});
/** Lets go of what is due of a kind; records go one by one, with `eraseClient`. */
export const clearDue = command({
  name: "clear-due",
  access: "clients.erase",
  input: object({
    kind: mixed<Exclude<RetentionKind, "record">>(
      (v): v is Exclude<RetentionKind, "record"> => retentionKinds.includes(v as RetentionKind) && v !== "record",
    ).required(),
  }),
  async run(ctx, { kind }): Promise<Result<{ gone: number }, CommonError>> {
    const { repo, practice } = ctx;
    const months = practice.retention[kind];
    const before = months === undefined ? undefined : monthsBefore(ctx, months);
    let gone = 0;
    if (before && kind === "letters") gone = await repo.retention.removeLetters(practice.id, before);
    if (before && kind === "unreturned") gone = await repo.retention.emptyUnreturned(practice.id, before);
    ctx.journal("practice.clear-due", "practice", { kind, gone });
    return ok({ gone });
  },
});

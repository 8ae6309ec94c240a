import { boolean, object, string } from "yup";
import { laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, query, questionnaireFor, type CommonError, type Context, type StaffActor } from "../kit";

export interface Desk {
  /** This page writes. */
  readonly mine: boolean;
  readonly others: readonly {
    readonly name: string;
    /** The same person on another page. */
    readonly own: boolean;
    readonly writes: boolean;
    readonly since: Instant;
  }[];
}
const forgottenAfter = 30_000;
const pageInput = string()
  .matches(/^[\w-]{8,64}$/)
  .required();

async function sitDown(ctx: Context<StaffActor>, id: Id<"Questionnaire">, page: string, takes: boolean): Promise<Desk> {
  const { repo, now, actor } = ctx;
  const there = await repo.desks.of(id, laterBy(now, -forgottenAfter));
  const own = there.find((one) => one.page === page);
  const others = there.filter((one) => one.page !== page);
  const mine = takes || (own?.writes ?? false) || !others.some((one) => one.writes);
  if (takes) await repo.desks.putDown(id);
  await repo.desks.put({
    page,
    questionnaireId: id,
    staffId: actor.id,
    writes: mine,
    since: own?.since ?? now,
    seenAt: now,
  });
  return {
    mine,
    others: others.map(({ name, staffId, writes, since }) => ({
      name,
      own: staffId === actor.id,
      writes: writes && !takes,
      since,
    })),
  };
}
/**
 * A page that has a draft open says so every few seconds, and hears who else has. Whoever came first writes; who comes
 * later looks, until they take over. It records nothing but that moment, and so is no command.
 */
export const atDesk = query({
  name: "at-desk",
  access: "library.write",
  input: object({ id: idInput<"Questionnaire">(), page: pageInput, leaving: boolean().default(false) }),
  async run(ctx, { id, page, leaving }): Promise<Result<Desk, CommonError>> {
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    if (leaving) {
      await ctx.repo.desks.leave(page);
      return ok({ mine: false, others: [] });
    }
    return ok(await sitDown(ctx, id, page, false));
  },
});
/**
 * From here on this page writes, and who did looks. What they wrote is saved; what they could not save is told to them.
 */
export const takeOverDraft = command({
  name: "take-over-draft",
  access: "library.write",
  input: object({ id: idInput<"Questionnaire">(), page: pageInput }),
  async run(ctx, { id, page }): Promise<Result<Desk, CommonError>> {
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    ctx.journal("questionnaire.take-over", `questionnaire:${id}`);
    return ok(await sitDown(ctx, id, page, true));
  },
});

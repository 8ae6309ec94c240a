import { object } from "yup";
import { nameOf } from "../../core/chart";
import { sampleValues, type Placeholder } from "../../core/messages";
import { laterBy, ok, type Id, type Instant, type Result } from "../../core/shared";
import { command, idInput, nothing, notFound, query, type CommonError } from "../kit";
import { doorBefore, recipientFor } from "./recipient";
import { endOf, letterValues, targetOf, usualExpiry } from "./target";

export interface VisitAhead {
  readonly id: Id<"Visit">;
  readonly startsAt: Instant;
  readonly clientName: string;
}
const ahead = 14 * 86_400_000;
const most = 40;
/** Whom a wording can be looked at with: who comes in the next two weeks. */
export const visitsAhead = query({
  name: "visits-ahead",
  access: "office.write",
  input: nothing,
  async run({ repo, practice, now }): Promise<Result<VisitAhead[], never>> {
    const visits = await repo.visits.between(practice.id, now, laterBy(now, ahead));
    return ok(visits.slice(0, most).map(({ id, startsAt, client }) => ({ id, startsAt, clientName: nameOf(client) })));
  },
});
/**
 * What stands for each placeholder in a letter about one visit, as it would be sent now; the link and code are none
 * that open anything.
 */
export const wordingValues = command({
  name: "wording-values",
  access: "office.write",
  input: object({ visitId: idInput<"Visit">() }),
  async run(ctx, { visitId }): Promise<Result<Readonly<Partial<Record<Placeholder, string>>>, CommonError>> {
    const target = await targetOf(ctx, { visitId });
    if (!target.ok) return target;
    const recipient = await recipientFor(ctx, target.value.client);
    const expiry = endOf(ctx, usualExpiry(ctx));
    if (!expiry.ok) return notFound;
    ctx.journal("wording.preview", `visit:${visitId}`);
    return ok({
      "practice.name": ctx.practice.name,
      "recipient.firstName": recipient.firstName,
      code: sampleValues.code,
      ...letterValues(
        ctx,
        target.value,
        { expiresAt: expiry.value, language: null },
        `${ctx.origin}/p/${"x".repeat(43)}`,
        await doorBefore(ctx, target.value.client, recipient),
        recipient,
        (await ctx.repo.practices.pages(ctx.practice.id)).clientNamed,
      ),
    });
  },
});

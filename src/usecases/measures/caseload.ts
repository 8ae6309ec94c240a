import { number, object, string } from "yup";
import { nameOf } from "../../core/chart";
import {
  caseOf,
  caseOrders,
  courseKey,
  inOrderOf,
  outcomesOf,
  type Case,
  type CaseOrder,
  type Outcomes,
} from "../../core/measures";
import { ok, type Id, type Instant, type Result } from "../../core/shared";
import { may, query, type CommonError, type Context, type StaffActor } from "../kit";
import { endsOfEverybody, KnownScores } from "./courses";

export interface CaseLine extends Case {
  readonly name: string;
  /** Since when an alert of theirs is open. */
  readonly alertSince: Instant | undefined;
}
export interface Figures extends Outcomes {
  readonly asked: number;
  readonly returned: number;
}
export interface Caseload {
  /** Scores that anybody has, the most used first. */
  readonly scores: readonly { readonly key: string; readonly title: string; readonly people: number }[];
  /** The score that is shown; undefined where nobody has one. */
  readonly of: string | undefined;
  readonly order: CaseOrder;
  readonly lines: readonly CaseLine[];
  /** So many people's scores are still being worked out, and in no figure yet. */
  readonly left: number;
  readonly from: number;
  readonly next: number | undefined;
  /** Undefined where too few people have it. */
  readonly figures: Figures | undefined;
  /** For who manages staff alone; a group that is too small has none. */
  readonly byPractitioner: readonly { readonly name: string; readonly figures: Outcomes | undefined }[] | undefined;
}
const atOnce = 100;
/** Somebody waits: what many others' scores came to is made by itself meanwhile, and counted the next time. */
const mostAnew = 200;

/** Everybody in sight by what became of them in one score, and the figures of all of them. */
export const caseload = query({
  name: "caseload",
  access: "answers.read",
  input: object({
    of: string().max(300),
    order: string<CaseOrder>().oneOf(caseOrders).default("worse"),
    from: number().integer().min(0).default(0),
  }),
  async run(ctx, { of: wanted, order, from }): Promise<Result<Caseload, CommonError>> {
    const { repo, practice, now } = ctx;
    const { cases, left } = await allCases(ctx);
    const scores = [...cases]
      .map(([key, all]) => ({ key, title: all[0]!.title, people: all.length }))
      .sort((one, other) => other.people - one.people || one.title.localeCompare(other.title));
    const of = scores.some(({ key }) => key === wanted) ? wanted : scores[0]?.key;
    const own = (of !== undefined && cases.get(of)) || [];
    const open = new Map<string, Instant>(
      (await repo.alerts.open(practice.id)).toReversed().map((one) => [one.clientId, one.raisedAt]),
    );
    const ordered = inOrderOf(own, order, open);
    const shown = ordered.slice(from, from + atOnce);
    const clients = await repo.clients.byIds(
      practice.id,
      shown.map(({ clientId }) => clientId as Id<"Client">),
    );
    const outcomes = outcomesOf(own, now);
    const counts =
      own[0] && (await repo.packets.askedAndReturned(practice.id, own[0].questionnaireId as Id<"Questionnaire">));
    ctx.journal("measures.caseload", "practice", { people: own.length });
    return ok({
      scores,
      of,
      order,
      left,
      from,
      next: from + atOnce < ordered.length ? from + atOnce : undefined,
      lines: shown.flatMap((one): CaseLine[] => {
        const client = clients.get(one.clientId as Id<"Client">);
        return client ? [{ ...one, name: nameOf(client), alertSince: open.get(one.clientId) }] : [];
      }),
      figures: outcomes && counts && { ...outcomes, ...counts },
      byPractitioner: may(ctx, "staff.manage") ? await byPractitioner(ctx, own) : undefined,
    });
  },
});
/** Everybody in sight, by score. */
async function allCases(
  ctx: Context<StaffActor>,
): Promise<{ readonly cases: Map<string, Case[]>; readonly left: number }> {
  const known = new KnownScores(ctx);
  const cases = new Map<string, Case[]>();
  const { made, left } = await endsOfEverybody(ctx, mostAnew);
  for (const [clientId, all] of made)
    for (const ends of all) {
      const versions = await known.versionsOf(ends);
      // A score that the version it came on has no more.
      if (versions.length === 0) continue;
      const one = caseOf(clientId, ends, versions);
      const those = cases.get(courseKey(ends));
      if (those) those.push(one);
      else cases.set(courseKey(ends), [one]);
    }
  return { cases, left };
}
async function byPractitioner({ repo, practice, now }: Context, cases: readonly Case[]) {
  const staff = (await repo.staff.all(practice.id)).filter(({ active }) => active);
  const own = new Map<string, Set<string>>();
  for (const { clientId, staffId } of await repo.careTeams.all())
    own.set(staffId, (own.get(staffId) ?? new Set()).add(clientId));
  return staff.flatMap(({ id, name }) => {
    const theirs = cases.filter(({ clientId }) => own.get(id)?.has(clientId));
    return theirs.length === 0 ? [] : [{ name, figures: outcomesOf(theirs, now) }];
  });
}

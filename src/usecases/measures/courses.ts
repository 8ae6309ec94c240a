import {
  endsOf,
  inTime,
  pointsOf,
  scoredVersions,
  type Course,
  type Ends,
  type ScoredVersion,
  type ScorePoint,
} from "../../core/measures";
import type { Gist } from "../../core/scoring";
import type { Id } from "../../core/shared";
import type { KeptCourse } from "../../db/repositories";
import { inOrder, type Context } from "../kit";

/** What reading scores takes: also what goes on by itself has it. */
type Reading = Pick<Context, "repo" | "practice">;
/** So many clients' rows are opened at once. */
const atOnce = 500;

/**
 * All scores of clients, the oldest first: as they were kept, or made anew from what came back and kept for the next who
 * asks.
 * @param clientIds everybody in sight but the test client, where none are named
 */
export const pointsOfClients = async (
  ctx: Reading,
  clientIds?: readonly Id<"Client">[],
): Promise<Map<Id<"Client">, readonly ScorePoint[]>> =>
  (await keptOrMade(ctx, { read: ctx.repo.courses.points, from: (points) => points, clientIds })).made;
/** Everybody's, with so many people's made anew at most. */
export const pointsOfEverybody = (ctx: Reading, mostAnew: number): Promise<Found<readonly ScorePoint[]>> =>
  keptOrMade(ctx, { read: ctx.repo.courses.points, from: (points) => points, mostAnew });
/** The first and the last of everybody's scores, with so many people's made anew at most. */
export const endsOfEverybody = (ctx: Reading, mostAnew: number): Promise<Found<readonly Ends[]>> =>
  keptOrMade(ctx, { read: ctx.repo.courses.ends, from: endsOf, mostAnew });

interface Found<Made> {
  readonly made: Map<Id<"Client">, Made>;
  /** Of so many people it is not known yet. */
  readonly left: number;
}
interface Wanted<Made> {
  readonly read: (practiceId: Id<"Practice">, clientIds: readonly Id<"Client">[]) => Promise<KeptCourse<Made>[]>;
  readonly from: (points: readonly ScorePoint[]) => Made;
  readonly clientIds?: readonly Id<"Client">[] | undefined;
  readonly mostAnew?: number;
}
async function keptOrMade<Made>(
  ctx: Reading,
  { read, from, clientIds, mostAnew = Infinity }: Wanted<Made>,
): Promise<Found<Made>> {
  const { repo, practice } = ctx;
  const made = new Map<Id<"Client">, Made>();
  const wanted = clientIds ?? (await repo.courses.everybody(practice.id));
  let [allowed, left] = [mostAnew, 0];
  for (let start = 0; start < wanted.length; start += atOnce) {
    const stale: KeptCourse<Made>[] = [];
    for (const one of await read(practice.id, wanted.slice(start, start + atOnce))) {
      if (one.made) made.set(one.clientId, one.made);
      // Of many, those of whom nothing ever came back are passed over.
      else if (one.revision > 0 || clientIds) stale.push(one);
    }
    const now = stale.slice(0, Math.max(0, allowed));
    allowed -= now.length;
    left += stale.length - now.length;
    const anew = await madeAnew(ctx, now);
    const fresh = now.map((one) => ({ ...one, points: anew.get(one.clientId) ?? [] }));
    for (const { clientId, points } of fresh) made.set(clientId, from(points));
    await repo.courses.keep(fresh);
    // The embedded database answers without ever letting the process turn to anything else: requests come in between.
    if (wanted.length > atOnce)
      await new Promise((resolve) => {
        setImmediate(resolve);
      });
  }
  return { made, left };
}
async function madeAnew(
  ctx: Reading,
  clients: readonly Pick<KeptCourse<unknown>, "clientId">[],
): Promise<Map<Id<"Client">, ScorePoint[]>> {
  const { repo, practice } = ctx;
  const ids = clients.map(({ clientId }) => clientId);
  const people = await repo.clients.byIds(practice.id, ids);
  const points = new Map<Id<"Client">, ScorePoint[]>();
  const add = (clientId: Id<"Client">, more: readonly ScorePoint[]): void =>
    void points.set(clientId, [...(points.get(clientId) ?? []), ...more]);
  for (const part of await repo.packets.scored(practice.id, ids)) {
    const { id: partId, packetId, versionId, questionnaireId, clientId, at } = part;
    const gist = repo.packets.gistOf<Gist>(part);
    if (!gist || gist.scores.length === 0) continue;
    const language = part.language ?? people.get(clientId)?.language ?? "";
    add(clientId, pointsOf(gist, { at, questionnaireId, versionId, language, packetId, partId }));
  }
  for (const { clientId, versionId, at, linkId, value } of await repo.courses.brought(ids)) {
    const questionnaireId = await repo.versions.questionnaireOf(versionId);
    const scored = scoredVersions(await repo.versions.definition(versionId), versionId).find(
      (one) => one.linkId === linkId,
    );
    if (!scored) continue;
    const { items } = scored;
    add(clientId, [
      { at, questionnaireId, versionId, linkId, value, answered: items, items, prorated: false, language: "" },
    ]);
  }
  for (const [clientId, all] of points) points.set(clientId, inTime(all));
  return points;
}

/** How scores are made, by version: asked once for many clients. */
export class KnownScores {
  private readonly byQuestionnaire = new Map<string, ReadonlyMap<string, readonly ScoredVersion[]>>();
  private readonly versions = new Map<string, Set<Id<"Version">>>();
  constructor(private readonly ctx: Pick<Context, "repo">) {}

  /** The scores of one person, each questionnaire's in its own order, those with the newest point first. */
  async coursesOf(points: readonly ScorePoint[]): Promise<Course[]> {
    const groups = new Map<string, ScorePoint[]>();
    for (const point of points)
      groups.set(point.questionnaireId, [...(groups.get(point.questionnaireId) ?? []), point]);
    const newest = [...groups].sort(([, a], [, b]) => (a.at(-1)!.at < b.at(-1)!.at ? 1 : -1));
    return (
      await inOrder(newest, async ([questionnaireId, own]) => {
        const scores = await this.of(
          questionnaireId as Id<"Questionnaire">,
          own.map(({ versionId }) => versionId as Id<"Version">),
        );
        return [...scores].flatMap(([linkId, versions]): Course[] => {
          const ofScore = own.filter((point) => point.linkId === linkId);
          if (ofScore.length === 0) return [];
          return [{ questionnaireId, linkId, title: versions.at(-1)!.title, points: ofScore, versions }];
        });
      })
    ).flat();
  }
  /** How the version in use makes a score, and those that its first and its last came on; the oldest first. */
  async versionsOf({ questionnaireId, linkId, first, last }: Ends): Promise<readonly ScoredVersion[]> {
    const ids = [first.versionId, last.versionId] as Id<"Version">[];
    return (await this.of(questionnaireId as Id<"Questionnaire">, ids)).get(linkId) ?? [];
  }
  /** Of these versions and the one in use, the oldest first, by score. */
  private async of(
    questionnaireId: Id<"Questionnaire">,
    wanted: readonly Id<"Version">[],
  ): Promise<ReadonlyMap<string, readonly ScoredVersion[]>> {
    const ids = this.versions.get(questionnaireId) ?? new Set<Id<"Version">>();
    const known = this.byQuestionnaire.get(questionnaireId);
    if (known && wanted.every((id) => ids.has(id))) return known;
    const { repo } = this.ctx;
    for (const id of wanted) ids.add(id);
    const current = (await repo.versions.current([questionnaireId])).get(questionnaireId);
    if (current) ids.add(current);
    this.versions.set(questionnaireId, ids);
    const numbered = await repo.versions.ofQuestionnaire(questionnaireId);
    const made = new Map<string, ScoredVersion[]>();
    for (const { id, number } of numbered.filter((one) => ids.has(one.id)).toReversed())
      for (const { linkId, ...scored } of scoredVersions(await repo.versions.definition(id), id))
        made.set(linkId, [...(made.get(linkId) ?? []), { ...scored, version: String(number) }]);
    this.byQuestionnaire.set(questionnaireId, made);
    return made;
  }
}

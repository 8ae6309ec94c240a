import { object } from "yup";
import { nameOf, writeTable } from "../../core/chart";
import { writeScores, type JsonObject, type ScoredReturn } from "../../core/fhir";
import { bandOf, versionOf, type Course, type ScorePoint } from "../../core/measures";
import { allQuestions } from "../../core/questionnaire";
import { instantMs, nthId, ok, type Id, type Result } from "../../core/shared";
import { command, idInput, inOrder, notFound, nothing, type CommonError, type Context } from "../kit";
import { KnownScores, pointsOfClients } from "./courses";

const header = [
  "returned",
  "questionnaire",
  "version",
  "language",
  "score",
  "value",
  "lowest",
  "highest",
  "band",
  "answered",
  "items",
  "filled up",
  "from",
];
const yesNo = (is: boolean): string => (is ? "yes" : "no");
function rowsOf(courses: readonly Course[], titles: ReadonlyMap<string, string>): string[][] {
  return courses.flatMap((course) =>
    course.points.map((point) => {
      const own = versionOf(course, point);
      return [
        point.at,
        titles.get(course.questionnaireId) ?? "",
        own?.version ?? "",
        point.language,
        own?.title ?? course.title,
        String(point.value ?? ""),
        String(own?.least ?? ""),
        String(own?.most ?? ""),
        bandOf(course, point),
        String(point.answered),
        String(point.items),
        yesNo(point.prorated),
        point.partId === undefined ? "a file" : "a return",
      ];
    }),
  );
}
async function titlesOf({ repo }: Context, courses: readonly Course[], known: Map<string, string>): Promise<void> {
  const unknown = [...new Set(courses.map(({ questionnaireId }) => questionnaireId))].filter((id) => !known.has(id));
  for (const [id, version] of await repo.versions.current(unknown as Id<"Questionnaire">[]))
    known.set(id, (await repo.versions.definition(version)).title);
}

/** Every score of somebody, as a table: what the plots draw, and what they cannot. */
export const scoresTable = command({
  name: "scores-table",
  access: "export",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<{ readonly name: string; readonly table: string }, CommonError>> {
    const client = await ctx.repo.clients.byId(ctx.practice.id, clientId);
    if (!client) return notFound;
    const points = (await pointsOfClients(ctx, [clientId])).get(clientId) ?? [];
    const courses = await new KnownScores(ctx).coursesOf(points);
    const titles = new Map<string, string>();
    await titlesOf(ctx, courses, titles);
    ctx.journal("measures.export", `client:${clientId}`, { as: "csv" });
    return ok({ name: `Scores of ${nameOf(client)}`, table: writeTable([header, ...rowsOf(courses, titles)]) });
  },
});
/** Every score of everybody in sight. */
export const allScoresTable = command({
  name: "all-scores-table",
  access: "export",
  input: nothing,
  async run(ctx): Promise<Result<string, CommonError>> {
    const { repo, practice } = ctx;
    const points = await pointsOfClients(ctx);
    const scored = [...points].filter(([, all]) => all.length > 0);
    const clients = await repo.clients.byIds(
      practice.id,
      scored.map(([clientId]) => clientId),
    );
    const known = new KnownScores(ctx);
    const titles = new Map<string, string>();
    const rows = await inOrder(scored, async ([clientId, all]) => {
      const courses = await known.coursesOf(all);
      await titlesOf(ctx, courses, titles);
      const client = clients.get(clientId);
      return rowsOf(courses, titles).map((row) => [clientId, client ? nameOf(client) : "", ...row]);
    });
    ctx.journal("measures.export", "practice", { as: "csv", clients: scored.length });
    return ok(writeTable([["client id", "client", ...header], ...rows.flat()]));
  },
});

/** Of what no return brought: another for every moment, version and place in it. */
const broughtId = (
  clientId: string,
  { at, versionId }: ScorePoint,
  versions: readonly string[],
  number: number,
): string =>
  nthId(clientId, (Math.floor(instantMs(at) / 1000) * 32 + (versions.indexOf(versionId) % 32)) * 256 + (number % 256));
/** Every score of somebody as FHIR R4 Observations, a panel for each return. */
export const scoresFhir = command({
  name: "scores-fhir",
  access: "export",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<{ readonly name: string; readonly bundle: JsonObject }, CommonError>> {
    const { repo, practice, now } = ctx;
    const client = await repo.clients.byId(practice.id, clientId);
    if (!client) return notFound;
    const points = (await pointsOfClients(ctx, [clientId])).get(clientId) ?? [];
    const courses = await new KnownScores(ctx).coursesOf(points);
    const versions = [...new Set(points.map(({ versionId }) => versionId))];
    const byReturn = new Map<string, Course["points"][number][]>();
    for (const point of points) {
      const key = point.partId ?? `${point.at} ${point.versionId}`;
      byReturn.set(key, [...(byReturn.get(key) ?? []), point]);
    }
    const returns = await inOrder([...byReturn.values()], async (own): Promise<ScoredReturn> => {
      const [first] = own;
      const questionnaire = await repo.versions.definition(first!.versionId as Id<"Version">);
      const asked = allQuestions(questionnaire);
      const idOf = (number: number): string =>
        first!.partId === undefined
          ? broughtId(clientId, first!, versions, number)
          : nthId(first!.partId, 5_000 + number);
      return {
        id: idOf(0),
        at: first!.at,
        questionnaire: {
          title: questionnaire.title,
          url: questionnaire.url,
          version: questionnaire.version,
          codes: questionnaire.codes,
        },
        scores: own.flatMap((point, index) => {
          const course = courses.find(
            (one) => one.questionnaireId === point.questionnaireId && one.linkId === point.linkId,
          );
          const made = course && versionOf(course, point);
          if (!course || !made) return [];
          return [
            {
              id: idOf(index + 1),
              title: made.title,
              codes: asked.find(({ linkId }) => linkId === point.linkId)?.codes ?? [],
              point,
              band: bandOf(course, point),
              least: made.least,
              most: made.most,
            },
          ];
        }),
      };
    });
    ctx.journal("measures.export", `client:${clientId}`, { as: "fhir" });
    return ok({
      name: `Scores of ${nameOf(client)}`,
      bundle: writeScores({ at: now, client: { id: clientId, name: nameOf(client) }, returns }),
    });
  },
});

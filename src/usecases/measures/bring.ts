import { boolean, object, string } from "yup";
import { nameOf } from "../../core/chart";
import { readScoresFile, scoredVersions, type ScoreRow, type ScoresFileProblem } from "../../core/measures";
import { at, dayIn } from "../../core/scheduling";
import { fail, nthId, ok, plainLetters, type Id, type Result } from "../../core/shared";
import type { KnownClient } from "../../db/repositories";
import {
  command,
  idInput,
  inOrder,
  libraryRight,
  nothing,
  query,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";

/** Scores that earlier ones can be brought for: of what is in the Library. */
export interface ScoreChoice {
  readonly questionnaireId: Id<"Questionnaire">;
  readonly linkId: string;
  readonly title: string;
  readonly least: number;
  readonly most: number;
}
async function choicesOf({
  repo,
  practice,
  actor,
}: Context<StaffActor>): Promise<(ScoreChoice & { readonly versionId: Id<"Version"> })[]> {
  const all = (await repo.questionnaires.all(practice.id, actor.id)).filter(
    (one) => libraryRight(actor, one) !== "none",
  );
  const current = await repo.versions.current(all.map(({ id }) => id));
  return (
    await inOrder([...current], async ([questionnaireId, versionId]) =>
      scoredVersions(await repo.versions.definition(versionId), versionId).map(({ linkId, title, least, most }) => ({
        questionnaireId,
        versionId,
        linkId,
        title,
        least,
        most,
      })),
    )
  )
    .flat()
    .sort((one, other) => one.title.localeCompare(other.title));
}
export const scoreChoices = query({
  name: "score-choices",
  access: "chart.post",
  input: nothing,
  run: async (ctx): Promise<Result<readonly ScoreChoice[], never>> => ok(await choicesOf(ctx)),
});

export interface CheckedScores {
  readonly ready: number;
  /** Lines that cannot be brought, and why. */
  readonly refused: readonly { readonly line: number; readonly why: string }[];
  /** How many were brought; undefined where it was only looked at. */
  readonly brought: number | undefined;
}
export type BringScoresError =
  CommonError | { readonly reason: "unreadable"; readonly why: ScoresFileProblem } | { readonly reason: "no-score" };
const largest = 2_000_000;
const input = object({
  requestId: requestInput,
  questionnaireId: idInput<"Questionnaire">(),
  linkId: string().max(200).required(),
  text: string().max(largest, "That is large for a file of scores.").required("Choose a file."),
  monthFirst: boolean().default(false),
  /** Only looked at. */
  dry: boolean().default(true),
});

/**
 * Earlier scores from a table: every line is checked first, and those that cannot be brought are named with why. What is
 * brought stands in the trends as such, and in nobody's chart.
 */
export const bringScores = command({
  name: "bring-scores",
  access: "chart.post",
  input,
  async run(
    ctx,
    { requestId, questionnaireId, linkId, text, monthFirst, dry },
  ): Promise<Result<CheckedScores, BringScoresError>> {
    const { repo, practice, now, actor } = ctx;
    const choice = (await choicesOf(ctx)).find(
      (one) => one.questionnaireId === questionnaireId && one.linkId === linkId,
    );
    if (!choice) return fail({ reason: "no-score" });
    const read = readScoresFile(text, monthFirst);
    if (!read.ok) return fail({ reason: "unreadable", why: read.why });
    const find = finderIn((await ctx.directory()).all("last"));
    const today = dayIn(now, practice.zone);
    const refused: { line: number; why: string }[] = [];
    const ready = read.rows.flatMap((row) => {
      const checked = checkRow(row, { find, today, choice });
      if (typeof checked === "string") {
        refused.push({ line: row.line, why: checked });
        return [];
      }
      return [
        {
          id: nthId(requestId, row.line) as Id<"BroughtScore">,
          line: row.line,
          clientId: checked.id,
          versionId: choice.versionId,
          // A day alone is known: noon of it, so that it is that day in every zone near.
          at: at(row.day!, "12:00", practice.zone),
          linkId,
          value: row.value!,
        },
      ];
    });
    if (dry) {
      ctx.journal("measures.check", "practice", { lines: read.rows.length, refused: refused.length });
      return ok({ ready: ready.length, refused, brought: undefined });
    }
    const brought = await repo.courses.bring(practice.id, ready, { requestId, at: now, by: actor.id });
    ctx.journal(brought === 0 && ready.length > 0 ? "measures.bring-repeated" : "measures.bring", "practice", {
      scores: brought,
      refused: refused.length,
    });
    return ok({ ready: ready.length, refused, brought });
  },
});

type Finder = (person: ScoreRow["person"]) => readonly KnownClient[];
/** By e-mail where one is given, else by the whole name, and by birth date where that is given too. */
function finderIn(people: readonly KnownClient[]): Finder {
  const [byMail, byName] = [new Map<string, KnownClient[]>(), new Map<string, KnownClient[]>()];
  const put = (into: Map<string, KnownClient[]>, key: string, one: KnownClient): void =>
    void into.set(key, [...(into.get(key) ?? []), one]);
  for (const one of people) {
    if (one.mergedInto !== null) continue;
    if (one.email) put(byMail, one.email.toLowerCase(), one);
    put(byName, plainLetters(nameOf(one)), one);
  }
  return ({ email, firstName, lastName, birthDate }) => {
    const found = email
      ? byMail.get(email.toLowerCase())
      : byName.get(plainLetters([firstName, lastName].filter((one) => one).join(" ")));
    return (found ?? []).filter((one) => birthDate === undefined || one.birthDate === birthDate);
  };
}
function checkRow(
  { person, day, value }: ScoreRow,
  known: { readonly find: Finder; readonly today: string; readonly choice: ScoreChoice },
): KnownClient | string {
  const found = known.find(person);
  if (found.length === 0) return "Nobody here is like that.";
  if (found.length > 1) return "Several people are like that: add a birth date or an e-mail address.";
  const [one] = found as [KnownClient];
  if (day === undefined) return "The date is not readable.";
  if (day > known.today) return "The date is still to come.";
  if (one.birthDate !== undefined && day < one.birthDate) return "The date is before they were born.";
  if (value === undefined) return "The score is not a number.";
  const { least, most } = known.choice;
  if (value < least || value > most) return `The score is outside what is possible: ${least} to ${most}.`;
  return one;
}

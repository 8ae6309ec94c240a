import { mixed, object, string } from "yup";
import { postingProblems } from "../../core/chart";
import { fileProblemWords } from "../../core/files";
import {
  readHandOff,
  sheetsIn,
  withoutSheetId,
  writeQuestionnaire,
  type ImportProblem,
  type JsonObject,
} from "../../core/fhir";
import type { Questionnaire } from "../../core/questionnaire";
import { canonicalText } from "../../core/signing";
import { fail, ok, type Id, type Result } from "../../core/shared";
import { command, fieldsOf, inOrder, libraryRight, takeFile, type CommonError, type Context } from "../kit";

export type ImportError =
  | CommonError
  | { readonly reason: "bad-file"; readonly problems: readonly ImportProblem[] }
  /** It is here already, otherwise: a new version of it, or a copy beside it? With a draft under way, a copy only. */
  | {
      readonly reason: "here-already";
      readonly id: Id<"Questionnaire">;
      readonly title: string;
      readonly draftBy: string | undefined;
      readonly mayChange: boolean;
    };

/** Equal in everything but the state and version number, which putting it in use sets. */
const sameContent = (a: JsonObject, b: JsonObject): boolean =>
  canonicalText({ ...withoutSheetId(a), status: "", version: "" }) ===
  canonicalText({ ...withoutSheetId(b), status: "", version: "" });

/** The same versions with ids for the PDFs they speak of: those that are here, and those the file brings along, looked at as any stranger's file; `store` keeps these. */
async function takeSheets(
  ctx: Context,
  versions: readonly [Questionnaire, ...Questionnaire[]],
  brought: ReadonlyMap<string, string>,
): Promise<
  Result<{ readonly versions: [Questionnaire, ...Questionnaire[]]; store(): Promise<void> }, ImportProblem[]>
> {
  const { repo, practice, random, now } = ctx;
  const ids = new Map<string, Id<"File">>();
  const files: Parameters<typeof repo.files.add>[] = [];
  const problem = (words: string): ImportProblem[] => [{ path: "extension", problem: words }];
  for (const { sheet } of versions) {
    if (!sheet || ids.has(sheet.hash)) continue;
    const here = await repo.files.sheet(practice.id, sheet.id);
    if (here && ctx.sha1(here) === sheet.hash) {
      ids.set(sheet.hash, sheet.id as Id<"File">);
      continue;
    }
    const data = brought.get(sheet.hash);
    const bytes = data === undefined ? undefined : new Uint8Array(Buffer.from(data, "base64"));
    if (!bytes) return fail(problem(`The PDF “${sheet.title}” is neither in the file nor here.`));
    if (ctx.sha1(bytes) !== sheet.hash)
      return fail(problem(`The PDF “${sheet.title}” is not the one the file speaks of.`));
    const taken = await takeFile(ctx, sheet.title, bytes);
    if (!taken.ok || !taken.value.sheet)
      return fail(
        problem(
          `The PDF “${sheet.title}” cannot be taken in. ${fileProblemWords[taken.ok ? "wrong-type" : taken.error]}`,
        ),
      );
    const id = random.id<"File">();
    files.push([
      practice.id,
      { id, partId: null, title: taken.value.title, contentType: taken.value.type, size: bytes.length, createdAt: now },
      bytes,
    ]);
    ids.set(sheet.hash, id);
  }
  return ok({
    versions: versions.map((q) => (q.sheet ? { ...q, sheet: { ...q.sheet, id: ids.get(q.sheet.hash)! } } : q)) as [
      Questionnaire,
      ...Questionnaire[],
    ],
    store: async () => {
      await inOrder(files, (f) => repo.files.add(...f));
    },
  });
}

/**
 * Takes in a questionnaire file as a draft, or says everything that is wrong with it and stores nothing. The same content
 * again changes nothing; other content under the same address is taken as said in `as`, and refused until
 * it is said. What somebody is writing is never written over.
 */
export const importQuestionnaire = command({
  name: "import-questionnaire",
  access: "library.write",
  input: object({ text: string().defined(), as: mixed<"new-version" | "copy">().oneOf(["new-version", "copy"]) }),
  async run(ctx, { text, as }): Promise<Result<{ id: Id<"Questionnaire">; already: boolean }, ImportError>> {
    const { repo, practice, now, random, actor } = ctx;
    const read = readHandOff(text);
    if (!read.ok) return fail({ reason: "bad-file", problems: read.error });
    const sheets = await takeSheets(ctx, read.value, sheetsIn(text));
    if (!sheets.ok) return fail({ reason: "bad-file", problems: sheets.error });
    const [given, ...older] = sheets.value.versions;
    const lost = postingProblems(given, await fieldsOf(ctx));
    if (lost.length > 0)
      return fail({
        reason: "bad-file",
        problems: lost.map((p) => ({ path: "item", linkId: p.linkId, problem: p.problem })),
      });
    const { title, kind } = given;
    await repo.practices.hold(practice.id);
    const existing = await repo.questionnaires.byUrl(practice.id, given.url, actor.id);
    const right = existing ? libraryRight(actor, existing) : "edit";
    const draft = existing && (await repo.drafts.of(existing.id, true));
    if (existing) {
      const here = [
        ...(draft ? [draft.fhir] : []),
        ...(await repo.versions.ofQuestionnaire(existing.id)).map((v) => v.fhir),
      ];
      if (right !== "none" && here.some((fhir) => sameContent(fhir, writeQuestionnaire(given)))) {
        ctx.journal("questionnaire.import-repeated", `questionnaire:${existing.id}`);
        return ok({ id: existing.id, already: true });
      }
      if (as === undefined || (as === "new-version" && (draft || right !== "edit")))
        return fail({
          reason: "here-already",
          id: existing.id,
          title: right === "none" ? title : existing.title,
          draftBy: right === "none" ? undefined : draft?.updatedBy,
          mayChange: right === "edit",
        });
    }
    await sheets.value.store();
    const id = existing && as === "new-version" ? existing.id : random.id<"Questionnaire">();
    const url = existing && as === "copy" ? `urn:uuid:${id}` : given.url;
    if (id !== existing?.id) {
      await repo.questionnaires.add({
        id,
        practiceId: practice.id,
        url,
        title,
        kind,
        state: "draft",
        inUse: null,
        createdAt: now,
      });
      // Its past comes along; what is here already has a past of its own.
      await inOrder(
        [...older].reverse().map((q, i) => ({ q, number: i + 1 })),
        ({ q: questionnaire, number }) =>
          repo.versions.add({
            id: random.id<"Version">(),
            questionnaireId: id,
            number,
            fhir: writeQuestionnaire({ ...questionnaire, url }),
            createdAt: now,
            createdBy: `${actor.name}, from a file`,
          }),
      );
    }
    const fhir = writeQuestionnaire({ ...given, url });
    await repo.drafts.start({
      questionnaireId: id,
      fhir,
      revision: random.id(),
      updatedAt: now,
      updatedBy: actor.name,
    });
    ctx.journal("questionnaire.import", `questionnaire:${id}`, { as: as ?? "new" });
    return ok({ id, already: false });
  },
});

import { mixed, object, string } from "yup";
import { postingProblems } from "../../core/chart";
import { fileProblemWords } from "../../core/files";
import type { HandOff } from "../../adapters/apart";
import { withoutSheetId, writeQuestionnaire, type ImportProblem, type JsonObject } from "../../core/fhir";
import type { Questionnaire } from "../../core/questionnaire";
import { canonicalText } from "../../core/signing";
import { fail, ok, type Id, type Result } from "../../core/shared";
import {
  command,
  fieldsOf,
  inOrder,
  libraryRight,
  takeFile,
  type CommonError,
  type Context,
  type Ports,
  type TakenFile,
} from "../kit";

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

const sheetProblem = (words: string): ImportProblem[] => [{ path: "extension", problem: words }];
/** What a file holds; each PDF it brings along was looked at as any stranger's file. */
interface Brought extends HandOff {
  readonly files: ReadonlyMap<string, TakenFile>;
}
async function readBrought(ports: Ports, text: string): Promise<Result<Brought, ImportProblem[]>> {
  const read = await ports.handOffs.read(text);
  if (!read.ok) return read;
  const { versions, sheets } = read.value;
  const files = new Map<string, TakenFile>();
  for (const { sheet } of versions) {
    const data = sheet && !files.has(sheet.hash) ? sheets.get(sheet.hash) : undefined;
    if (!sheet || data === undefined) continue;
    const bytes = new Uint8Array(Buffer.from(data, "base64"));
    if (ports.sha1(bytes) !== sheet.hash)
      return fail(sheetProblem(`The PDF “${sheet.title}” is not the one the file speaks of.`));
    const taken = await takeFile(ports, sheet.title, bytes);
    if (!taken.ok || !taken.value.sheet) {
      const why = fileProblemWords[taken.ok ? "wrong-type" : taken.error];
      return fail(sheetProblem(`The PDF “${sheet.title}” cannot be taken in. ${why}`));
    }
    files.set(sheet.hash, taken.value);
  }
  return ok({ versions, sheets, files });
}

/**
 * The same versions with ids for the PDFs they speak of: those that are here, and those the file brings along; `store`
 * keeps these.
 */
async function placeSheets(
  { repo, practice, random, now, sha1, sha256 }: Context,
  { versions, files }: Brought,
): Promise<
  Result<{ readonly versions: [Questionnaire, ...Questionnaire[]]; store(): Promise<void> }, ImportProblem[]>
> {
  const ids = new Map<string, Id<"File">>();
  const added: Parameters<typeof repo.files.add>[] = [];
  for (const { sheet } of versions) {
    if (!sheet) continue;
    const here = await repo.files.sheet(practice.id, sheet.id);
    const isHere = here !== undefined && sha1(here) === sheet.hash;
    const taken = files.get(sheet.hash);
    const found = isHere ? here : taken?.bytes;
    if (!found) return fail(sheetProblem(`The PDF “${sheet.title}” is neither in the file nor here.`));
    if (sheet.sha256 !== undefined && sha256(found) !== sheet.sha256)
      return fail(sheetProblem(`The PDF “${sheet.title}” is not the one the file speaks of.`));
    if (ids.has(sheet.hash)) continue;
    if (isHere || !taken) {
      ids.set(sheet.hash, sheet.id as Id<"File">);
      continue;
    }
    const { title, type, bytes } = taken;
    const id = random.id<"File">();
    added.push([
      practice.id,
      { id, partId: null, title, contentType: type, size: bytes.length, createdAt: now },
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
      await inOrder(added, (f) => repo.files.add(...f));
    },
  });
}

/**
 * Takes in a questionnaire file as a draft, or says everything that is wrong with it and stores nothing. The same
 * content again changes nothing; other content under the same address is taken as said in `as`, and refused until it is
 * said. What somebody is writing is never written over.
 */
export const importQuestionnaire = command({
  name: "import-questionnaire",
  access: "library.write",
  input: object({ text: string().defined(), as: mixed<"new-version" | "copy">().oneOf(["new-version", "copy"]) }),
  before: (ports, { text }) => readBrought(ports, text),
  async run(ctx, { as }, read): Promise<Result<{ id: Id<"Questionnaire">; already: boolean }, ImportError>> {
    const { repo, practice, now, random, actor } = ctx;
    if (!read.ok) return fail({ reason: "bad-file", problems: read.error });
    const sheets = await placeSheets(ctx, read.value);
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
            material: false,
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

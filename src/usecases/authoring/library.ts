import { number, object } from "yup";
import { fieldByKey, type ChartField } from "../../core/chart";
import { withSheetData, writeQuestionnaire, type JsonObject } from "../../core/fhir";
import { proof, type ProofReport } from "../../core/proof";
import {
  allItems,
  differences,
  forClient,
  isQuestion,
  languagesOf,
  questionsByKey,
  sectionsOf,
  shownWhenWords,
  sourceLanguage,
  textsOf,
  translationState,
  type Difference,
  type Questionnaire,
  type QuestionnaireKind,
} from "../../core/questionnaire";
import { signaturePlaces } from "../../core/signing";
import { disciplines, disciplineWords, fitsDiscipline, starterLibrary, type Discipline } from "../../core/starter";
import { ok, type Id, type Instant, type LibraryRight, type Result } from "../../core/shared";
import { currentOf } from "./current";
import {
  command,
  fieldsOf,
  idInput,
  inOrder,
  libraryRight,
  proofPractice,
  notFound,
  nothing,
  query,
  questionnaireFor,
  type CommonError,
  type Context,
} from "../kit";

export interface LibraryLine {
  readonly id: Id<"Questionnaire">;
  readonly title: string;
  readonly kind: QuestionnaireKind;
  readonly state: "draft" | "active" | "retired";
  readonly version: number;
  readonly timesUsed: number;
  readonly changedAt: Instant;
  readonly languages: readonly string[];
  /** There is a draft that is not in use yet. */
  readonly draft: boolean;
}
/** What of the starter library is not here, in all and by discipline. */
export interface Starters {
  readonly missing: number;
  readonly by: readonly { readonly discipline: Discipline; readonly words: string; readonly missing: number }[];
}
export const library = query({
  name: "library",
  access: "library.read",
  input: nothing,
  async run({ repo, practice, actor }): Promise<Result<{ lines: LibraryLine[]; starters: Starters }, never>> {
    const all = await repo.questionnaires.all(practice.id, actor.id);
    const here = new Set(all.map((q) => q.url));
    const lines = all
      .filter((q) => libraryRight(actor, q) !== "none")
      .map(({ id, title, kind, state, newest, timesUsed, changedAt, draft, languages }) => ({
        languages,
        id,
        title,
        kind,
        state,
        version: newest,
        timesUsed,
        changedAt,
        draft,
      }));
    const missing = starterLibrary.filter((q) => !here.has(q.url));
    return ok({
      lines,
      starters: {
        missing: missing.length,
        by: disciplines.map((discipline) => ({
          discipline,
          words: disciplineWords[discipline],
          missing: missing.filter((q) => fitsDiscipline(q, discipline)).length,
        })),
      },
    });
  },
});

export interface ContentLine {
  readonly linkId: string;
  readonly depth: number;
  readonly text: string;
  readonly type: string;
  readonly required: boolean;
  readonly shownWhen: string | undefined;
  readonly goesTo: string | undefined;
  readonly marks: readonly string[];
}
export interface QuestionnaireView {
  readonly id: Id<"Questionnaire">;
  readonly title: string;
  readonly kind: QuestionnaireKind;
  readonly state: "draft" | "active" | "retired";
  readonly description: string;
  readonly copyright: string;
  readonly signed: boolean;
  /** Of a worksheet: its PDF, and how many of the questions are written into it. */
  readonly sheet: { readonly title: string; readonly fields: number } | undefined;
  /** The one it is written in first, each with how many of its texts have a translation that stands. */
  readonly languages: readonly { readonly language: string; readonly done: number; readonly of: number }[];
  readonly sharing: {
    readonly mayChange: boolean;
    readonly everyone: LibraryRight;
    /** `always`: an owner, who may change everything. `you`: who asks, and is never shut out by their own doing. */
    readonly people: readonly {
      readonly id: Id<"Staff">;
      readonly name: string;
      readonly title: string;
      readonly you: boolean;
      readonly always: boolean;
      readonly may: LibraryRight;
    }[];
  };
  readonly questions: number;
  readonly sections: number;
  readonly draft: { readonly at: Instant; readonly by: string } | undefined;
  /** Newest first. */
  readonly versions: readonly {
    readonly versionId: Id<"Version">;
    readonly number: number;
    readonly at: Instant;
    readonly by: string;
    readonly inUse: boolean;
    readonly changes: readonly Difference[];
  }[];
  /** What one version changes of another that somebody chose. */
  readonly compared:
    { readonly from: number; readonly to: number; readonly changes: readonly Difference[] } | undefined;
  /** What the draft would change. */
  readonly draftChanges: readonly Difference[];
  readonly timesUsed: number;
  readonly report: ProofReport;
  readonly lines: readonly ContentLine[];
  readonly scores: readonly {
    readonly title: string;
    readonly bands: readonly {
      readonly low: number;
      readonly high: number;
      readonly label: string;
      readonly source: string;
    }[];
  }[];
}
/**
 * What a questionnaire contains: its draft where there is one, else its newest version; with what each version changed.
 */
export const questionnaireView = query({
  name: "questionnaire-view",
  access: "library.read",
  input: object({ id: idInput<"Questionnaire">(), from: number().integer(), to: number().integer() }),
  async run(ctx, { id, from, to }): Promise<Result<QuestionnaireView, CommonError>> {
    const now = await currentOf(ctx, id);
    if (!now.ok) return now;
    const { row, draft, versions, questionnaire } = now.value;
    const fields = await fieldsOf(ctx);
    const shares = await ctx.repo.questionnaires.shares(id);
    const staff = (await ctx.repo.staff.all(ctx.practice.id)).filter(({ active }) => active);
    const definitions = await inOrder(versions, (v) => ctx.repo.versions.definition(v.id));
    const questions = allItems(questionnaire).filter(isQuestion);
    const newest = definitions[0];
    return ok({
      id,
      title: questionnaire.title,
      kind: questionnaire.kind,
      state: row.state,
      description: questionnaire.description ?? "",
      copyright: questionnaire.copyright ?? "",
      signed: signaturePlaces(questionnaire).length > 0,
      languages: languageStates(questionnaire),
      sheet: questionnaire.sheet && {
        title: questionnaire.sheet.title,
        fields: questions.filter((i) => i.sheetField !== undefined).length,
      },
      sharing: {
        mayChange: row.right === "edit",
        everyone: row.everyone,
        people: staff.map((s) => ({
          id: s.id,
          name: s.name,
          title: s.title,
          you: s.id === ctx.actor.id,
          always: s.role === "owner",
          may: shares.get(s.id) ?? "none",
        })),
      },
      questions: questions.filter((i) => !i.score).length,
      sections: sectionsOf(forClient(questionnaire)).length,
      draft: draft && { at: draft.updatedAt, by: draft.updatedBy },
      draftChanges: draft && newest ? differences(newest, questionnaire) : [],
      versions: versions.map((v, i) => ({
        versionId: v.id,
        number: v.number,
        at: v.createdAt,
        by: v.createdBy,
        inUse: row.inUse === v.id,
        changes: definitions[i + 1] ? differences(definitions[i + 1]!, definitions[i]!) : [],
      })),
      timesUsed: await ctx.repo.questionnaires.timesUsed(id),
      compared: compared(
        versions.map((v) => v.number),
        definitions,
        from,
        to,
      ),
      report: proof(questionnaire, fields, await proofPractice(ctx)),
      lines: contentLines(questionnaire, fields),
      scores: questions.flatMap((i) => (i.score ? [{ title: i.text, bands: i.score.bands }] : [])),
    });
  },
});

function compared(
  numbers: readonly number[],
  definitions: readonly Questionnaire[],
  from: number | undefined,
  to: number | undefined,
): QuestionnaireView["compared"] {
  if (from === undefined || to === undefined) return undefined;
  const [first, second] = [definitions[numbers.indexOf(from)], definitions[numbers.indexOf(to)]];
  return first && second && { from, to, changes: differences(first, second) };
}

function languageStates(questionnaire: Questionnaire): QuestionnaireView["languages"] {
  const texts = textsOf(questionnaire);
  const of = texts.length;
  return [
    { language: sourceLanguage(questionnaire), done: of, of },
    ...languagesOf(questionnaire).map((language) => ({
      language,
      of,
      done: texts.filter((t) => translationState(t, questionnaire.translations?.[language]?.[t.place]) === "done")
        .length,
    })),
  ];
}

function contentLines(questionnaire: Questionnaire, fields: readonly ChartField[]): ContentLine[] {
  const byKey = questionsByKey(questionnaire);
  const out: ContentLine[] = [];
  const visit = (items: Questionnaire["items"], depth: number): void => {
    for (const item of items) {
      const posting = item.type === "display" ? undefined : item.posting;
      const marks = [
        ...(item.type === "group" && item.repeats ? ["repeats"] : []),
        ...(isQuestion(item) && item.options.length > 0 ? [`${item.options.length} options`] : []),
        ...(isQuestion(item) && item.score ? ["score"] : []),
        ...(isQuestion(item) && item.alert ? ["alert"] : []),
        ...item.codes.flatMap((c) => (c.system === "http://loinc.org" && c.code ? [`LOINC ${c.code}`] : [])),
      ];
      out.push({
        linkId: item.linkId,
        depth,
        text: item.text,
        type: item.type,
        required: item.type !== "display" && item.required,
        shownWhen: shownWhenWords(item, byKey),
        goesTo: posting && (fieldByKey(posting.field, fields)?.label ?? posting.field),
        marks,
      });
      if (item.type !== "display") visit(item.items, depth + 1);
    }
  };
  visit(questionnaire.items, 0);
  return out;
}
/** As FHIR, with the PDF of a worksheet in it: once, where several versions have the same. */
async function leaving({ repo, practice }: Context, versions: readonly Questionnaire[]): Promise<JsonObject[]> {
  const given = new Set<string>();
  return inOrder(versions, async (q) => {
    const bytes = q.sheet && !given.has(q.sheet.hash) ? await repo.files.sheet(practice.id, q.sheet.id) : undefined;
    if (q.sheet) given.add(q.sheet.hash);
    return bytes ? withSheetData(writeQuestionnaire(q), Buffer.from(bytes).toString("base64")) : writeQuestionnaire(q);
  });
}
/** A questionnaire version as FHIR, equal in meaning to what was imported. */
export const exportQuestionnaire = command({
  name: "export-questionnaire",
  access: "library.read",
  input: object({ versionId: idInput<"Version">() }),
  async run(ctx, { versionId }): Promise<Result<JsonObject, CommonError>> {
    const version = await ctx.repo.versions.byId(ctx.practice.id, versionId);
    if (!version) return notFound;
    const reached = await questionnaireFor(ctx, version.questionnaireId, "use");
    if (!reached.ok) return reached;
    ctx.journal("questionnaire.export", `version:${versionId}`);
    return ok((await leaving(ctx, [await ctx.repo.versions.definition(versionId)]))[0]!);
  },
});

/**
 * A questionnaire for another practice: all its versions in one FHIR Bundle, newest first, with scores, languages and
 * posting lines. A draft alone is handed off as it is.
 */
export const handOff = command({
  name: "hand-off",
  access: "library.read",
  input: object({ id: idInput<"Questionnaire">() }),
  async run(ctx, { id }): Promise<Result<JsonObject, CommonError>> {
    const now = await currentOf(ctx, id);
    if (!now.ok) return now;
    const { versions, questionnaire } = now.value;
    ctx.journal("questionnaire.hand-off", `questionnaire:${id}`, { versions: versions.length });
    const resources = await leaving(
      ctx,
      versions.length > 0 ? await inOrder(versions, (v) => ctx.repo.versions.definition(v.id)) : [questionnaire],
    );
    return ok({
      resourceType: "Bundle",
      type: "collection",
      timestamp: ctx.now,
      entry: resources.map((resource) => ({ resource })),
    });
  },
});

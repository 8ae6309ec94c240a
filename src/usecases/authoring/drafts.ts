import { array, boolean, mixed, number, object, string } from "yup";
import { newQuestionnaireSchema } from "../../core/forms";
import { readDraft, writeQuestionnaire, type ImportProblem } from "../../core/fhir";
import {
  emptyQuestionnaire,
  forClient,
  languagesOf,
  sourceLanguage,
  translate,
  type Questionnaire,
} from "../../core/questionnaire";
import { disciplines, fitsDiscipline, starterLibrary } from "../../core/starter";
import type { ProofPractice } from "../../core/proof";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { PracticeField } from "../../db/repositories";
import { currentOf } from "./current";
import { useDraft } from "./put-in-use";
import {
  command,
  idInput,
  notFound,
  proofPractice,
  query,
  questionnaireFor,
  requestInput,
  type CommonError,
  type Context,
} from "../kit";

export interface ComposerView {
  readonly id: Id<"Questionnaire">;
  readonly questionnaire: Questionnaire;
  /** The draft's; null while nothing was changed since the newest version. */
  readonly revision: string | null;
  /** The newest version's number, 0 before the first. */
  readonly version: number;
  readonly savedAt: Instant | undefined;
  readonly inUseNumber: number | undefined;
  /** What its answers can go to: the practice's chart fields; a retired one stays for lines that post to it. */
  readonly fields: readonly PracticeField[];
  readonly practice: ProofPractice;
}
export const composerView = query({
  name: "composer-view",
  access: "library.write",
  input: object({ id: idInput<"Questionnaire">() }),
  async run(ctx, { id }): Promise<Result<ComposerView, CommonError>> {
    const now = await currentOf(ctx, id, "edit");
    if (!now.ok) return now;
    const { questionnaire, draft, versions, row } = now.value;
    return ok({
      id,
      questionnaire,
      revision: draft?.revision ?? null,
      version: versions[0]?.number ?? 0,
      savedAt: draft?.updatedAt,
      inUseNumber: versions.find((v) => v.id === row.inUse)?.number,
      fields: await ctx.repo.chartFields.all(ctx.practice.id),
      practice: await proofPractice(ctx),
    });
  },
});

export interface RehearsalView {
  readonly id: Id<"Questionnaire">;
  readonly title: string;
  readonly languages: readonly string[];
  readonly language: string;
  readonly questionnaire: Questionnaire;
  readonly oneByOne: boolean;
  /** With its scores and alerts, which the client never gets. */
  readonly authored: Questionnaire;
}
/** What a client would see of it: the draft where there is one. A look only; nothing of it is kept. */
export const rehearsal = query({
  name: "rehearsal",
  access: "library.read",
  input: object({ id: idInput<"Questionnaire">(), language: string().max(35) }),
  async run(ctx, { id, language }): Promise<Result<RehearsalView, CommonError>> {
    const view = await currentOf(ctx, id);
    if (!view.ok) return view;
    const questionnaire = view.value.questionnaire;
    const own = sourceLanguage(questionnaire);
    return ok({
      id,
      title: questionnaire.title,
      languages: [own, ...languagesOf(questionnaire)],
      language: language ?? own,
      questionnaire: forClient(translate(questionnaire, language ?? own)),
      authored: questionnaire,
      oneByOne: (await ctx.repo.practices.pages(ctx.practice.id)).oneByOne === true,
    });
  },
});

export type SaveDraftError =
  | CommonError
  | { readonly reason: "malformed"; readonly problems: readonly ImportProblem[] }
  /** Somebody else saved in between; nothing of theirs was overwritten and nothing of this was stored. */
  | { readonly reason: "changed"; readonly by: string; readonly at: Instant };

/**
 * Saves a draft as a FHIR Questionnaire that may be unfinished, and names it `next`. It must be made from what is
 * there: the draft `revision`, or one of those this page `tried` to save and got no reply for, or the version without a
 * draft.
 */
export const saveDraft = command({
  name: "save-draft",
  access: "library.write",
  input: object({
    id: idInput<"Questionnaire">(),
    revision: string().max(40).nullable().defined(),
    tried: array(string().max(40).required()).max(100).required(),
    version: number().integer().min(0).required(),
    next: requestInput,
    fhir: mixed<NonNullable<unknown>>().required(),
  }),
  async run(
    ctx,
    { id, revision, tried, version, next, fhir },
  ): Promise<Result<{ revision: string; savedAt: Instant }, SaveDraftError>> {
    const { repo, now, actor } = ctx;
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    const row = reached.value;
    const read = readDraft(fhir);
    if (!read.ok) return fail({ reason: "malformed", problems: read.error });
    const there = await repo.drafts.of(id, true);
    // Its address is what packets, exports and imports know it by: not for a browser to change.
    const draft = {
      questionnaireId: id,
      fhir: writeQuestionnaire({ ...read.value, url: row.url }),
      revision: next,
      updatedAt: now,
      updatedBy: actor.name,
    };
    const newest = (await repo.versions.ofQuestionnaire(id))[0];
    const ours = there
      ? there.revision === revision || tried.includes(there.revision)
      : revision === null && version === (newest?.number ?? 0) && (await repo.drafts.start(draft));
    if (!ours)
      return fail({
        reason: "changed",
        by: (await repo.drafts.of(id))?.updatedBy ?? newest?.createdBy ?? "Somebody",
        at: there?.updatedAt ?? newest?.createdAt ?? now,
      });
    if (there) await repo.drafts.replace(draft);
    if (row.inUse === null)
      await repo.questionnaires.update(id, { title: read.value.title || "Untitled", kind: read.value.kind });
    ctx.journal("questionnaire.draft-save", `questionnaire:${id}`);
    return ok({ revision: next, savedAt: now });
  },
});

/** The request names the new questionnaire, so that a double press makes one. */
export const newQuestionnaire = command({
  name: "new-questionnaire",
  access: "library.write",
  input: object({ requestId: idInput<"Questionnaire">() }).concat(newQuestionnaireSchema),
  async run(ctx, { requestId: id, title, kind }): Promise<Result<{ id: Id<"Questionnaire"> }, CommonError>> {
    return addWithDraft(ctx, id, emptyQuestionnaire(`urn:uuid:${id}`, title, kind, ctx.random.id().slice(0, 8)), "new");
  },
});

/** A copy with an address of its own: changing it never changes the other. The request names it, as above. */
export const duplicate = command({
  name: "duplicate-questionnaire",
  access: "library.write",
  input: object({ requestId: idInput<"Questionnaire">(), id: idInput<"Questionnaire">() }),
  async run(ctx, { requestId: id, id: from }): Promise<Result<{ id: Id<"Questionnaire"> }, CommonError>> {
    const view = await currentOf(ctx, from);
    if (!view.ok) return view;
    const { questionnaire } = view.value;
    return addWithDraft(
      ctx,
      id,
      {
        ...questionnaire,
        url: `urn:uuid:${id}`,
        version: "1",
        title: `Copy of ${questionnaire.title}`,
        status: "draft",
      },
      "copy",
    );
  },
});

/** Makes a questionnaire with a draft; the same id again finds what it made. */
export async function addWithDraft(
  ctx: Context & { readonly actor: { readonly name: string } },
  id: Id<"Questionnaire">,
  questionnaire: Questionnaire,
  how: string,
): Promise<Result<{ id: Id<"Questionnaire"> }, never>> {
  const { repo, practice, now, actor, random } = ctx;
  await repo.practices.hold(practice.id);
  const fresh = await repo.questionnaires.add({
    id,
    practiceId: practice.id,
    url: questionnaire.url,
    title: questionnaire.title,
    kind: questionnaire.kind,
    state: "draft",
    inUse: null,
    createdAt: now,
  });
  if (fresh)
    await repo.drafts.start({
      questionnaireId: id,
      fhir: writeQuestionnaire(questionnaire),
      revision: random.id(),
      updatedAt: now,
      updatedBy: actor.name,
    });
  ctx.journal(fresh ? "questionnaire.make" : "questionnaire.make-repeated", `questionnaire:${id}`, { how });
  return ok({ id });
}

/** Brings in what is missing of the starter library, as drafts. Pressed again, it brings nothing twice. */
export const bringStarters = command({
  name: "bring-starters",
  access: "library.write",
  input: object({
    discipline: string()
      .transform((value: string) => value || undefined)
      .oneOf(disciplines)
      .optional(),
    /** Put in use as they are. */
    inUse: boolean().default(false),
  }),
  async run(ctx, { discipline, inUse }): Promise<Result<{ brought: number }, CommonError>> {
    await ctx.repo.practices.hold(ctx.practice.id);
    const here = new Set((await ctx.repo.questionnaires.all(ctx.practice.id)).map((q) => q.url));
    const missing = starterLibrary.filter(
      (q) => !here.has(q.url) && (discipline === undefined || fitsDiscipline(q, discipline)),
    );
    for (const questionnaire of missing) {
      const id = ctx.random.id<"Questionnaire">();
      await addWithDraft(ctx, id, questionnaire, "starter");
      if (inUse) await useDraft(ctx, id);
    }
    if (missing.length === 0) ctx.journal("questionnaire.starters-repeated", "practice");
    return ok({ brought: missing.length });
  },
});

/** Throws the draft away: back to the newest version. */
export const dropDraft = command({
  name: "drop-draft",
  access: "library.write",
  input: object({ id: idInput<"Questionnaire">() }),
  async run(ctx, { id }): Promise<Result<null, CommonError>> {
    const reached = await questionnaireFor(ctx, id, "edit");
    if (!reached.ok) return reached;
    if (reached.value.inUse === null) return notFound;
    await ctx.repo.drafts.drop(id);
    ctx.journal("questionnaire.draft-drop", `questionnaire:${id}`);
    return ok(null);
  },
});

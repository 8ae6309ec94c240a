import { array, boolean, number, object, string } from "yup";
import { chartSections } from "../../core/chart";
import { startingLayouts, unknownPlaceholders, type NoteLayout } from "../../core/notes";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { KeptLayout } from "../../db/repositories";
import { command, idInput, notFound, query, type CommonError, type Context, type StaffActor } from "../kit";

export interface LayoutLine {
  readonly layout: NoteLayout;
  /** One of those that every practice has: it is copied, not changed. */
  readonly starting: boolean;
  readonly mine: boolean;
  readonly shared: boolean;
  readonly revision: number;
  readonly updatedAt: Instant | undefined;
  readonly updatedBy: string | undefined;
}
export interface NoteLayouts {
  readonly lines: readonly LayoutLine[];
  /** What stands in a chart and can be laid into a section. */
  readonly fields: readonly { readonly key: string; readonly label: string }[];
}
export const noteLayouts = query({
  name: "note-layouts",
  access: "note.write",
  input: object({}),
  async run(ctx): Promise<Result<NoteLayouts, CommonError>> {
    const own = (await ctx.repo.noteLayouts.all(ctx.practice.id)).filter((one) => mayUse(ctx, one));
    const lines = [
      ...own.map((one): LayoutLine => ({
        layout: one.layout,
        starting: false,
        mine: one.staffId === ctx.actor.id,
        shared: one.shared,
        revision: one.revision,
        updatedAt: one.updatedAt,
        updatedBy: one.updatedBy,
      })),
      ...startingLayouts.map((layout): LayoutLine => ({
        layout,
        starting: true,
        mine: false,
        shared: true,
        revision: 0,
        updatedAt: undefined,
        updatedBy: undefined,
      })),
    ];
    const fields = (await ctx.repo.chartFields.all(ctx.practice.id)).filter(({ retired }) => !retired);
    return ok({ lines, fields: fields.map(({ field }) => ({ key: field.key, label: field.label })) });
  },
});
const mayUse = ({ actor }: Context<StaffActor>, { shared, staffId }: KeptLayout): boolean =>
  shared || staffId === actor.id;

const text = (most: number) => string().trim().max(most, `Keep it under ${most} characters.`);
const standing = text(4000).test("placeholders", "", function known(value) {
  const unknown = unknownPlaceholders(value ?? "");
  return unknown.length === 0 || this.createError({ message: `There is no {{${unknown[0]}}}.` });
});
const sectionSchema = object({
  id: string()
    .matches(/^[\w-]{1,60}$/)
    .required(),
  heading: text(120).required("Give the section a heading."),
  prompt: text(300).default(""),
  text: standing.default(""),
  takes: array(
    string()
      .oneOf([...chartSections])
      .required(),
  )
    .max(chartSections.length)
    .default([]),
  fields: array(string().max(80).required()).max(20).default([]),
  measures: boolean().default(false),
  rest: boolean().default(false),
});
const takeHomeSchema = object({
  heading: text(120).required("Give the section a heading."),
  prompt: text(300).default(""),
  text: standing.default(""),
});
export const layoutSchema = object({
  name: text(80).required("Give the layout a name."),
  shared: boolean().default(false),
  sections: array(sectionSchema.required())
    .min(1, "A layout has at least one section.")
    .max(30)
    .required()
    .test("ids", "Two sections have the same id.", (all) => new Set(all.map(({ id }) => id)).size === all.length),
  takeHome: array(takeHomeSchema.required()).max(10).default([]),
});

export type LayoutError = CommonError | { readonly reason: "layout-moved" };
/** Keeps a layout of one's own, or changes it: whoever made it, and others where it is shared. */
export const keepLayout = command({
  name: "keep-layout",
  access: "note.write",
  input: layoutSchema.concat(object({ id: idInput<"NoteLayout">(), revision: number().integer().min(0).required() })),
  async run(
    ctx,
    { id, revision, name, shared, sections, takeHome },
  ): Promise<Result<{ readonly revision: number }, LayoutError>> {
    const { repo, practice, actor, now } = ctx;
    await repo.practices.hold(practice.id);
    const before = (await repo.noteLayouts.all(practice.id)).find((one) => one.id === id);
    if (before && !mayUse(ctx, before)) return notFound;
    if ((before?.revision ?? 0) !== revision) return fail({ reason: "layout-moved" });
    await repo.noteLayouts.put(practice.id, {
      id,
      staffId: before?.staffId ?? actor.id,
      // Whoever made it says whether others see it.
      shared: before && before.staffId !== actor.id ? before.shared : shared,
      revision: revision + 1,
      layout: {
        id,
        name,
        sections: sections.map(({ prompt, text: words, takes, fields, measures, rest, ...section }) => ({
          ...section,
          ...(prompt === "" ? {} : { prompt }),
          ...(words === "" ? {} : { text: words }),
          ...(takes.length > 0 ? { takes } : {}),
          ...(fields.length > 0 ? { fields } : {}),
          ...(measures ? { measures: true as const } : {}),
          ...(rest ? { rest: true as const } : {}),
        })),
        takeHome: takeHome.map(({ heading, prompt, text: words }) => ({
          heading,
          ...(prompt === "" ? {} : { prompt }),
          ...(words === "" ? {} : { text: words }),
        })),
      },
      updatedAt: now,
      updatedBy: actor.name,
    });
    ctx.journal("note-layout.keep", `layout:${id}`, { shared });
    return ok({ revision: revision + 1 });
  },
});
/** Takes away a layout of one's own. Notes that were laid out so stay as they are. */
export const dropLayout = command({
  name: "drop-layout",
  access: "note.write",
  input: object({ id: idInput<"NoteLayout">() }),
  async run(ctx, { id }): Promise<Result<null, CommonError>> {
    const { repo, practice, actor } = ctx;
    const before = (await repo.noteLayouts.all(practice.id)).find((one) => one.id === id);
    if (before?.staffId !== actor.id) return notFound;
    await repo.noteLayouts.drop(practice.id, id as Id<"NoteLayout">);
    ctx.journal("note-layout.drop", `layout:${id}`);
    return ok(null);
  },
});

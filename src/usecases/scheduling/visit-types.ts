import { object } from "yup";
import { visitTypeSchema } from "../../core/forms";
import { ok, type Id, type Result } from "../../core/shared";
import type { VisitType } from "../../db/repositories";
import { command, idInput, nothing, notFound, query, requestInput, type CommonError, type Context } from "../kit";

export type VisitTypeLine = Pick<VisitType, "id" | "name" | "minutes" | "remote" | "room" | "practitioners">;
export interface VisitTypes {
  /** Those that are offered, each with the standing packets that go with it. */
  readonly types: readonly (VisitTypeLine & { readonly standing: readonly string[] })[];
  readonly retired: readonly { readonly id: Id<"VisitType">; readonly name: string }[];
  /** Who can hold visits. */
  readonly practitioners: readonly { readonly id: Id<"Staff">; readonly name: string }[];
}
export const visitTypeLine = ({ id, name, minutes, remote, room, practitioners }: VisitType): VisitTypeLine => ({
  id,
  name,
  minutes,
  remote,
  room,
  practitioners,
});
/** Who can hold visits: whoever works here and does not only look after the practice, or others. */
export async function practitionersOf({ repo, practice }: Pick<Context, "repo" | "practice">) {
  return (await repo.staff.all(practice.id))
    .filter(({ active, role }) => active && role !== "office" && role !== "supervisor")
    .map(({ id, name }) => ({ id, name }));
}
export const visitTypes = query({
  name: "visit-types",
  access: "day.read",
  input: nothing,
  async run(ctx): Promise<Result<VisitTypes, never>> {
    const { repo, practice } = ctx;
    const standing = await repo.standing.all(practice.id);
    return ok({
      types: (await repo.visitTypes.all(practice.id)).map((type) => ({
        ...visitTypeLine(type),
        standing: standing.filter((one) => one.visitTypes.includes(type.id)).map(({ title }) => title),
      })),
      retired: await repo.visitTypes.retired(practice.id),
      practitioners: await practitionersOf(ctx),
    });
  },
});

/** Those of them who work here. */
async function known(ctx: Pick<Context, "repo" | "practice">, ids: readonly string[]): Promise<Id<"Staff">[]> {
  return (await practitionersOf(ctx)).map(({ id }) => id).filter((id) => ids.includes(id));
}
/** The request's id becomes the kind's. Held by picture or phone, it takes no room. */
export const addVisitType = command({
  name: "add-visit-type",
  access: "office.write",
  input: visitTypeSchema.concat(object({ requestId: requestInput })),
  async run(ctx, { requestId, room, practitioners, ...type }): Promise<Result<{ id: Id<"VisitType"> }, CommonError>> {
    const id = requestId as Id<"VisitType">;
    const row = { id, practiceId: ctx.practice.id, ...type, room: type.remote ? "" : room };
    const fresh = await ctx.repo.visitTypes.add({ ...row, practitioners: await known(ctx, practitioners) });
    ctx.journal(fresh ? "visit-type.add" : "visit-type.add-repeated", `visit-type:${id}`);
    return ok({ id });
  },
});
export const changeVisitType = command({
  name: "change-visit-type",
  access: "office.write",
  input: visitTypeSchema.concat(object({ visitTypeId: idInput<"VisitType">() })),
  async run(ctx, { visitTypeId, room, practitioners, ...type }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.visitTypes.byId(ctx.practice.id, visitTypeId))) return notFound;
    const set = { ...type, room: type.remote ? "" : room, practitioners: await known(ctx, practitioners) };
    await ctx.repo.visitTypes.set(visitTypeId, set);
    ctx.journal("visit-type.change", `visit-type:${visitTypeId}`);
    return ok(null);
  },
});
/** No longer offered; visits of its kind stay as they are. */
export const retireVisitType = command({
  name: "retire-visit-type",
  access: "office.write",
  input: object({ visitTypeId: idInput<"VisitType">() }),
  async run(ctx, { visitTypeId }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.visitTypes.byId(ctx.practice.id, visitTypeId))) return notFound;
    await ctx.repo.visitTypes.retire(visitTypeId, ctx.now);
    ctx.journal("visit-type.retire", `visit-type:${visitTypeId}`);
    return ok(null);
  },
});
export const offerVisitType = command({
  name: "offer-visit-type",
  access: "office.write",
  input: object({ visitTypeId: idInput<"VisitType">() }),
  async run(ctx, { visitTypeId }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.visitTypes.byId(ctx.practice.id, visitTypeId))) return notFound;
    await ctx.repo.visitTypes.retire(visitTypeId, null);
    ctx.journal("visit-type.offer", `visit-type:${visitTypeId}`);
    return ok(null);
  },
});

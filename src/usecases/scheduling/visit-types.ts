import { object } from "yup";
import { visitTypeSchema } from "../../core/forms";
import { ok, type Id, type Result } from "../../core/shared";
import type { VisitType } from "../../db/repositories";
import { command, idInput, nothing, notFound, query, requestInput, type CommonError } from "../kit";

export type VisitTypeLine = Pick<VisitType, "id" | "name" | "minutes" | "remote" | "room">;
export const visitTypes = query({
  name: "visit-types",
  access: "day.read",
  input: nothing,
  async run({ repo, practice }): Promise<Result<readonly VisitTypeLine[], never>> {
    const all = await repo.visitTypes.all(practice.id);
    return ok(all.map(({ id, name, minutes, remote, room }) => ({ id, name, minutes, remote, room })));
  },
});

/** The request's id becomes the kind's. Held by picture or phone, it takes no room. */
export const addVisitType = command({
  name: "add-visit-type",
  access: "office.write",
  input: visitTypeSchema.concat(object({ requestId: requestInput })),
  async run(ctx, { requestId, room, ...type }): Promise<Result<{ id: Id<"VisitType"> }, CommonError>> {
    const id = requestId as Id<"VisitType">;
    const row = { id, practiceId: ctx.practice.id, ...type, room: type.remote ? "" : room };
    const fresh = await ctx.repo.visitTypes.add(row);
    ctx.journal(fresh ? "visit-type.add" : "visit-type.add-repeated", `visit-type:${id}`);
    return ok({ id });
  },
});
export const changeVisitType = command({
  name: "change-visit-type",
  access: "office.write",
  input: visitTypeSchema.concat(object({ visitTypeId: idInput<"VisitType">() })),
  async run(ctx, { visitTypeId, room, ...type }): Promise<Result<null, CommonError>> {
    if (!(await ctx.repo.visitTypes.byId(ctx.practice.id, visitTypeId))) return notFound;
    await ctx.repo.visitTypes.set(visitTypeId, { ...type, room: type.remote ? "" : room });
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

import { object, string } from "yup";
import { nameOf } from "../../core/chart";
import { newVisitSchema, visitTimeSchema } from "../../core/forms";
import { dayIn, isDay, timesOf, type Day } from "../../core/scheduling";
import { fail, instantMs, ok, type Id, type Instant, type Result } from "../../core/shared";
import { isHere, type Taken } from "../../db/repositories";
import { command, idInput, notFound, query, requestInput, type CommonError, type Context } from "../kit";
import { practitionersOf, visitTypeLine, type VisitTypeLine } from "./visit-types";

export interface VisitChoices {
  /** Whom it was asked for, where they are here. */
  readonly client: { readonly id: Id<"Client">; readonly name: string } | undefined;
  readonly practitioners: readonly { readonly id: Id<"Staff">; readonly name: string }[];
  readonly types: readonly VisitTypeLine[];
  readonly today: Day;
  /** Who asks, where visits can be with them. */
  readonly ownId: Id<"Staff"> | undefined;
}
/** With whom and what a visit can be made for. */
export const visitChoices = query({
  name: "visit-choices",
  access: "visit.book",
  input: object({ clientId: idInput<"Client">().optional() }),
  async run(ctx, { clientId }): Promise<Result<VisitChoices, never>> {
    const { repo, practice, actor, now } = ctx;
    const [client, practitioners, types] = [
      clientId && (await repo.clients.byId(practice.id, clientId)),
      await practitionersOf(ctx),
      await repo.visitTypes.all(practice.id),
    ];
    return ok({
      client: client && { id: client.id, name: nameOf(client) },
      practitioners,
      ownId: practitioners.find(({ id }) => id === actor.id)?.id,
      types: types.map(visitTypeLine),
      today: dayIn(now, practice.zone),
    });
  },
});

const whenInput = visitTimeSchema.concat(
  object({
    day: string()
      .required()
      .test("day", "There is no such day.", (day) => day !== undefined && isDay(day)),
  }),
);
/** What holds the time already, and on which of the days that were asked for. */
export interface NotFree {
  readonly reason: "not-free";
  readonly taken: Taken;
  readonly at: Instant;
}
const taken = (what: Taken, at: Instant): Result<never, NotFree> => fail({ reason: "not-free", taken: what, at });

/** A kind of visit that this practitioner does not hold. */
export interface NotTheirs {
  readonly reason: "not-theirs";
}
const holds = ({ practitioners }: Pick<VisitTypeLine, "practitioners">, staffId: Id<"Staff">): boolean =>
  practitioners.length === 0 || practitioners.includes(staffId);

/** A visit, or a row of them some weeks apart: all or none. The request's id becomes the first one's. */
export const bookVisit = command({
  name: "book-visit",
  access: "visit.book",
  input: newVisitSchema.concat(whenInput).concat(
    object({
      requestId: requestInput,
      clientId: idInput<"Client">(),
      staffId: idInput<"Staff">(),
      visitTypeId: idInput<"VisitType">(),
    }),
  ),
  async run(ctx, input): Promise<Result<{ id: Id<"Visit"> }, CommonError | NotFree | NotTheirs>> {
    const { repo, practice, random } = ctx;
    const [client, staff, type] = [
      await repo.clients.byId(practice.id, input.clientId),
      await repo.staff.byId(input.staffId),
      await repo.visitTypes.byId(practice.id, input.visitTypeId),
    ];
    if (!client || !isHere(client) || !staff || !type) return notFound;
    if (!holds(type, input.staffId)) return fail({ reason: "not-theirs" });
    const first = input.requestId as Id<"Visit">;
    const row = {
      practiceId: practice.id,
      clientId: input.clientId,
      staffId: input.staffId,
      visitTypeId: input.visitTypeId,
      room: type.remote ? "" : input.room,
    };
    const done = await repo.visits.book(
      timesOf(input, input.count, input.weeks, practice.zone).map((time, index) => ({
        ...row,
        ...time,
        id: index === 0 ? first : random.id<"Visit">(),
      })),
    );
    if (done === "repeated") {
      ctx.journal("visit.book-repeated", `visit:${first}`);
      return ok({ id: first });
    }
    if (done !== "booked") return taken(done.taken, done.at);
    ctx.journal("visit.book", `visit:${first}`, { count: input.count });
    return ok({ id: first });
  },
});

export interface VisitView {
  readonly id: Id<"Visit">;
  readonly clientId: Id<"Client">;
  readonly clientName: string;
  readonly staffId: Id<"Staff">;
  /** Also one who has left, whom no visit is moved to. */
  readonly practitioner: string;
  readonly visitTypeId: Id<"VisitType">;
  readonly visitType: string;
  readonly startsAt: Instant;
  readonly minutes: number;
  readonly remote: boolean;
  readonly room: string;
  readonly day: Day;
  readonly cancelled: { readonly at: Instant; readonly by: "client" | "practice" } | undefined;
  readonly isPast: boolean;
}
export const visitView = query({
  name: "visit-view",
  access: "visit.book",
  input: object({ visitId: idInput<"Visit">() }),
  async run({ repo, practice, now }, { visitId }): Promise<Result<VisitView, CommonError>> {
    const visit = await repo.visits.byId(practice.id, visitId);
    if (!visit) return notFound;
    return ok({
      id: visit.id,
      clientId: visit.client.id,
      clientName: nameOf(visit.client),
      staffId: visit.staffId,
      practitioner: visit.staffName,
      visitTypeId: visit.visitTypeId,
      visitType: visit.visitType,
      startsAt: visit.startsAt,
      minutes: Math.round((instantMs(visit.endsAt) - instantMs(visit.startsAt)) / 60_000),
      remote: visit.remote,
      room: visit.room,
      day: dayIn(visit.startsAt, practice.zone),
      cancelled:
        visit.cancelledAt === null ? undefined : { at: visit.cancelledAt, by: visit.cancelledBy ?? "practice" },
      isPast: instantMs(visit.endsAt) < instantMs(now),
    });
  },
});

/** To another time, another colleague or another room; what was sent for it stays with it. */
export const moveVisit = command({
  name: "move-visit",
  access: "visit.book",
  input: whenInput.concat(object({ visitId: idInput<"Visit">(), staffId: idInput<"Staff">() })),
  async run(ctx, input): Promise<Result<null, CommonError | NotFree | NotTheirs>> {
    const { repo, practice } = ctx;
    const [visit, staff] = [await repo.visits.byId(practice.id, input.visitId), await repo.staff.byId(input.staffId)];
    if (!visit || visit.cancelledAt !== null || !staff) return notFound;
    const type = await repo.visitTypes.byId(practice.id, visit.visitTypeId);
    // Whoever has it keeps it, whatever was decided since.
    if (type && staff.id !== visit.staffId && !holds(type, staff.id)) return fail({ reason: "not-theirs" });
    const [time] = timesOf(input, 1, 1, practice.zone);
    const done = await repo.visits.move(visit.id, {
      ...time!,
      staffId: staff.id,
      room: visit.remote ? "" : input.room,
    });
    if (done !== "moved") return taken(done, time!.startsAt);
    ctx.journal("visit.move", `visit:${visit.id}`, { from: visit.startsAt, to: time!.startsAt });
    return ok(null);
  },
});

/** Its time is free from then on; who cancelled stays noted. */
export const cancelVisit = command({
  name: "cancel-visit",
  access: "visit.book",
  input: object({
    visitId: idInput<"Visit">(),
    by: string()
      .oneOf(["client", "practice"] as const)
      .required("Say who cancelled."),
  }),
  async run(ctx, { visitId, by }): Promise<Result<null, CommonError>> {
    const visit = await ctx.repo.visits.byId(ctx.practice.id, visitId);
    if (!visit || visit.cancelledAt !== null) return notFound;
    await ctx.repo.visits.cancel(visitId, by, ctx.now);
    ctx.journal("visit.cancel", `visit:${visitId}`, { by });
    return ok(null);
  },
});
/** Cancelled by mistake, or it is to be held after all: where its time is still free. */
export const restoreVisit = command({
  name: "restore-visit",
  access: "visit.book",
  input: object({ visitId: idInput<"Visit">() }),
  async run(ctx: Context, { visitId }): Promise<Result<null, CommonError | NotFree>> {
    const visit = await ctx.repo.visits.byId(ctx.practice.id, visitId);
    if (!visit || visit.cancelledAt === null) return notFound;
    const done = await ctx.repo.visits.restore(visitId);
    if (done !== "restored") return taken(done, visit.startsAt);
    ctx.journal("visit.restore", `visit:${visitId}`);
    return ok(null);
  },
});

import { object } from "yup";
import { nameOf, type EntryChange, type Likeness } from "../../core/chart";
import { clientContactSchema, newRelationSchema, seenSchema, writeBySchema } from "../../core/forms";
import { fail, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { Relation } from "../../db/repositories";
import { recipientFor } from "../sending/recipient";
import { careTeamOf, type CareTeam } from "./care-team";
import { identityState } from "./identity";
import { mergedWith, type MergedRecord } from "./merge";
import { chartByStaff, command, idInput, notFound, query, may, type CommonError, type Context } from "../kit";

/** What stands on the page, to be sent along with a change of it. */
interface Seen {
  readonly seen: string;
}
export interface Reach {
  readonly email: string;
  readonly phone: string;
  readonly prefers: "email" | "text";
}
export interface ReachView {
  readonly clientId: Id<"Client">;
  readonly name: string;
  /** As a language tag. */
  readonly language: string;
  /** Their own time zone; empty for the practice's. */
  readonly zone: string;
  readonly practiceZone: string;
  readonly languages: readonly string[];
  readonly own: Reach & Seen;
  /** Who gets the client's letters while they are under 18. */
  readonly through: string | undefined;
  /** Whether this member of staff may see the chart. */
  readonly chart: boolean;
  readonly archivedAt: Instant | null;
  readonly isTest: boolean;
  readonly identity: Seen & {
    readonly firstName: string;
    readonly lastName: string;
    readonly preferredName: string;
    readonly birthDate: string;
  };
  readonly careTeam: CareTeam;
  /** Who may be the same person, and why. */
  readonly alike: readonly {
    readonly id: Id<"Client">;
    readonly name: string;
    readonly birthDate: string | undefined;
    readonly why: readonly Likeness[];
  }[];
  readonly merged: readonly MergedRecord[];
  /** Whether they may be made one with another record here. */
  readonly mayMerge: boolean;
  readonly mayErase: boolean;
  /** Whether everything about them may be taken out. */
  readonly mayTakeOut: boolean;
  readonly around: readonly (Reach &
    Seen & {
      readonly id: Id<"Relation">;
      readonly firstName: string;
      readonly lastName: string;
      readonly kind: Relation["kind"];
    })[];
  /** Names of those who were. */
  readonly ended: readonly { readonly name: string; readonly kind: Relation["kind"] }[];
}
interface Ways {
  readonly email?: string | undefined;
  readonly phone?: string | undefined;
  readonly prefers: "email" | "text";
}
const reachOf = ({ email = "", phone = "", prefers }: Ways): Reach => ({ email, phone, prefers });

/** How a client and those around them are written to. */
export const reachView = query({
  name: "reach-view",
  access: "people.write",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<ReachView, CommonError>> {
    const client = await ctx.repo.clients.byId(ctx.practice.id, clientId);
    if (!client) return notFound;
    const alike = client.mergedInto
      ? []
      : (await ctx.directory()).like(client).filter(({ person }) => person.id !== clientId && !person.isTest);
    const relations = await ctx.repo.relations.ofClient(clientId);
    const { relationId, name } = await recipientFor(ctx, client);
    ctx.journal("reach.view", `client:${clientId}`);
    return ok({
      clientId,
      name: nameOf(client),
      language: client.language,
      zone: client.zone ?? "",
      practiceZone: ctx.practice.zone,
      languages: ctx.practice.languages,
      own: { ...reachOf(client), seen: seenOf(ctx, clientState(client)) },
      through: relationId && name,
      chart: may(ctx, "chart.read"),
      archivedAt: client.archivedAt,
      isTest: client.isTest,
      identity: {
        firstName: client.firstName,
        lastName: client.lastName,
        preferredName: client.preferredName ?? "",
        birthDate: client.birthDate ?? "",
        seen: seenOf(ctx, identityState(client)),
      },
      careTeam: await careTeamOf(ctx, clientId),
      alike: alike
        .slice(0, mostAlike)
        .map(({ person, why }) => ({ id: person.id, name: nameOf(person), birthDate: person.birthDate, why })),
      merged: await mergedWith(ctx, clientId),
      mayMerge: may(ctx, "chart.post") && !client.isTest && !client.mergedInto,
      mayErase: may(ctx, "clients.erase") && !client.mergedInto,
      mayTakeOut: may(ctx, "export") && may(ctx, "chart.read") && !client.mergedInto,
      around: relations
        .filter((r) => !r.ended)
        .map((r) => ({
          id: r.id,
          firstName: r.firstName,
          lastName: r.lastName,
          kind: r.kind,
          ...reachOf(r),
          seen: seenOf(ctx, relationState(r)),
        })),
      ended: relations.filter((r) => r.ended).map((r) => ({ name: nameOf(r), kind: r.kind })),
    });
  },
});

const mostAlike = 5;

export type ReachError = CommonError | { readonly reason: "changed" };
const clientState = (c: Ways & { readonly language: string; readonly zone?: string | null | undefined }): object => ({
  ...reachOf(c),
  language: c.language,
  zone: c.zone ?? "",
});
const relationState = (
  r: Ways & { readonly firstName: string; readonly lastName: string; readonly kind: string },
): object => ({ firstName: r.firstName, lastName: r.lastName, kind: r.kind, ...reachOf(r) });
/** A digest, as what is on file may be longer than what a form takes. */
const seenOf = ({ sha256 }: Context, state: object): string => sha256(JSON.stringify(state));
/** Whether it may be written: what is on file stood on the page of whoever changes it, or is what they want already. */
const mayWrite = (ctx: Context, there: object, wanted: object, seen: string): boolean =>
  [seen, seenOf(ctx, wanted)].includes(seenOf(ctx, there));

/**
 * What a client said of how they are reached. The chart gets it with its source and keeps what stood there before;
 * letters already sent stay where they went.
 */
export const changeContact = command({
  name: "change-contact",
  access: "people.write",
  input: clientContactSchema.concat(seenSchema).concat(object({ clientId: idInput<"Client">() })),
  async run(ctx, { clientId, email, phone, prefers, language, zone, seen }): Promise<Result<null, ReachError>> {
    const { repo, practice } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const client = (await repo.clients.byId(practice.id, clientId))!;
    const changes = Object.entries({ email, phone }).flatMap(([field, value]): EntryChange[] =>
      (value ?? "") === (client[field as "email" | "phone"] ?? "") ? [] : [{ kind: "set", field, value: value ?? "" }],
    );
    if (!mayWrite(ctx, clientState(client), clientState({ email, phone, prefers, language, zone }), seen))
      return fail({ reason: "changed" });
    if (changes.length > 0) await chartByStaff(ctx, clientId, "post", changes, "Told us");
    await repo.clients.update(clientId, { prefers, language, zone: zone ?? null });
    ctx.journal("client.change-contact", `client:${clientId}`, { contacts: changes.length });
    return ok(null);
  },
});

const relationInput = object({ clientId: idInput<"Client">(), relationId: idInput<"Relation">() });
async function findRelation(
  { repo, practice }: Context,
  clientId: Id<"Client">,
  relationId: Id<"Relation">,
): Promise<Relation | undefined> {
  return (await repo.clients.hold(practice.id, clientId))
    ? (await repo.relations.ofClient(clientId)).find((r) => r.id === relationId)
    : undefined;
}
/** Another name, address or place beside the client. Codes that went to where they were reached before stop working. */
export const changeRelation = command({
  name: "change-relation",
  access: "people.write",
  input: newRelationSchema.concat(writeBySchema).concat(seenSchema).concat(relationInput),
  async run(
    ctx,
    { clientId, relationId, kind, firstName, lastName, email, phone, prefers, seen },
  ): Promise<Result<null, ReachError>> {
    const there = await findRelation(ctx, clientId, relationId);
    if (!there || there.ended) return notFound;
    if (!mayWrite(ctx, relationState(there), relationState({ firstName, lastName, kind, email, phone, prefers }), seen))
      return fail({ reason: "changed" });
    const same = (there.email ?? "") === (email ?? "") && (there.phone ?? "") === (phone ?? "");
    await ctx.repo.relations.update(relationId, {
      kind: kind as Relation["kind"],
      prefers,
      person: { firstName, lastName, ...(email ? { email } : {}), ...(phone ? { phone } : {}) },
    });
    if (!same) await ctx.repo.links.dropCodes(clientId, relationId);
    ctx.journal("relation.change", `client:${clientId}`, { relation: relationId, contacts: !same });
    return ok(null);
  },
});

/**
 * Somebody is no longer around the client: their links and the doors they opened are closed, and nothing goes to them
 * again.
 */
export const endRelation = command({
  name: "end-relation",
  access: "people.write",
  input: relationInput,
  async run(ctx, { clientId, relationId }): Promise<Result<null, CommonError>> {
    const there = await findRelation(ctx, clientId, relationId);
    if (!there) return notFound;
    if (there.ended) {
      ctx.journal("relation.end-repeated", `client:${clientId}`, { relation: relationId });
      return ok(null);
    }
    await ctx.repo.relations.end(relationId, ctx.now);
    const { links, packets } = ctx.repo;
    for (const packetId of await links.endThoseOf(clientId, relationId, ctx.now)) {
      const packet = await packets.byId(ctx.practice.id, packetId, true);
      // Wrong codes locked a link that is closed now: nothing is left to lock, and somebody else may get one.
      if (packet?.lockedAt && !(await links.live(packet)).some((l) => l.lockedAt))
        await packets.update(packetId, { lockedAt: null });
      ctx.journal("link.end", `packet:${packetId}`, { relation: relationId });
    }
    ctx.journal("relation.end", `client:${clientId}`, { relation: relationId });
    return ok(null);
  },
});

import { boolean, object, string } from "yup";
import { nameOf, type ClientIdentity, type EntryChange, type Likeness } from "../../core/chart";
import { contactSchema, newClientSchema, newRelationSchema } from "../../core/forms";
import { fail, isLanguageTag, ok, type Id, type Result, mainLanguage } from "../../core/shared";
import type { Relation } from "../../db/repositories";
import { chartByStaff, command, idInput, notFound, requestInput, type CommonError } from "../kit";

export type AddClientError =
  | CommonError
  | {
      readonly reason: "likely-here";
      readonly people: readonly {
        readonly id: Id<"Client">;
        readonly name: string;
        readonly birthDate: string | undefined;
        readonly why: readonly Likeness[];
      }[];
    };

/**
 * A client on the spot: a name and one way to reach them. Somebody who may be here already is shown first; `anyway`
 * says that this is another person. The request's id becomes the client's.
 */
export const addClient = command({
  name: "add-client",
  access: "people.write",
  input: newClientSchema.concat(
    object({
      requestId: requestInput,
      anyway: boolean().default(false),
      language: string()
        .max(35)
        .optional()
        .test("language", "Choose a language.", (tag) => tag === undefined || isLanguageTag(tag)),
    }),
  ),
  async run(
    ctx,
    { requestId, anyway, language, firstName, lastName, email, phone, birthDate },
  ): Promise<Result<{ id: Id<"Client"> }, AddClientError>> {
    const { repo, practice, now } = ctx;
    const id = requestId as Id<"Client">;
    const repeated = (): Result<{ id: Id<"Client"> }, never> => {
      ctx.journal("client.add-repeated", `client:${id}`);
      return ok({ id });
    };
    if (await repo.clients.byId(practice.id, id)) return repeated();
    const identity: ClientIdentity = {
      firstName,
      lastName,
      ...(email ? { email } : {}),
      ...(phone ? { phone } : {}),
      ...(birthDate ? { birthDate } : {}),
    };
    const likely = anyway
      ? []
      : (await ctx.directory()).like(identity).map(({ person: { id: known, ...who }, why }) => ({
          id: known,
          name: nameOf(who),
          birthDate: who.birthDate,
          why,
        }));
    if (likely.length > 0) return fail({ reason: "likely-here", people: likely });
    const fresh = await repo.clients.add({
      id,
      practiceId: practice.id,
      language: language ?? mainLanguage(practice.locale),
      prefers: email ? "email" : "text",
      createdAt: now,
      identity,
    });
    if (!fresh) return repeated();
    if (ctx.sight !== "all" || ctx.actor.role === "practitioner") await repo.careTeams.join(id, ctx.actor.id);
    const held = { "first-name": firstName, "last-name": lastName, email, phone, "birth-date": birthDate };
    await chartByStaff(
      ctx,
      id,
      "start",
      Object.entries(held).flatMap(([field, value]): EntryChange[] => (value ? [{ kind: "set", field, value }] : [])),
      "Added when sending",
    );
    ctx.journal("client.add", `client:${id}`, { anyway });
    return ok({ id });
  },
});

/**
 * Somebody made up, to try things on: letters go to who adds them, and nothing of theirs is counted. There is one;
 * asked again, it is the same. The request's id becomes theirs.
 */
export const addTestClient = command({
  name: "add-test-client",
  access: "people.write",
  input: object({ requestId: requestInput }),
  async run(ctx, { requestId }): Promise<Result<{ id: Id<"Client"> }, CommonError>> {
    const { repo, practice, now, actor } = ctx;
    await repo.practices.hold(practice.id);
    const there = await repo.clients.testClient(practice.id);
    const id = there ?? (requestId as Id<"Client">);
    if (there === undefined) {
      const identity: ClientIdentity = { firstName: "Robin", lastName: "Test", email: actor.email };
      await repo.clients.add({
        id,
        practiceId: practice.id,
        language: mainLanguage(practice.locale),
        prefers: "email",
        createdAt: now,
        isTest: true,
        identity,
      });
      await chartByStaff(
        ctx,
        id,
        "start",
        [
          { kind: "set", field: "first-name", value: identity.firstName },
          { kind: "set", field: "last-name", value: identity.lastName },
          { kind: "set", field: "email", value: actor.email },
        ],
        "Made up, to try things on",
      );
    }
    await repo.careTeams.join(id, actor.id);
    ctx.journal("test-client.add", `client:${id}`, { there: there !== undefined });
    return ok({ id });
  },
});

/** A way to reach somebody who has none on file. What is there is not changed by it: that is what Reconcile is for. */
export const addContact = command({
  name: "add-contact",
  access: "people.write",
  input: contactSchema.concat(object({ clientId: idInput<"Client">() })),
  async run(ctx, { clientId, email, phone }): Promise<Result<null, CommonError | { readonly reason: "has-contact" }>> {
    const { repo, practice } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const client = await repo.clients.byId(practice.id, clientId);
    if (client?.email || client?.phone) return fail({ reason: "has-contact" });
    await chartByStaff(
      ctx,
      clientId,
      "post",
      Object.entries({ email, phone }).flatMap(([field, value]): EntryChange[] =>
        value ? [{ kind: "set", field, value }] : [],
      ),
      "Told us",
    );
    ctx.journal("client.add-contact", `client:${clientId}`);
    return ok(null);
  },
});

/** Somebody around a client who can be written to. The request's id becomes theirs. */
export const addRelation = command({
  name: "add-relation",
  access: "people.write",
  input: newRelationSchema.concat(object({ requestId: requestInput, clientId: idInput<"Client">() })),
  async run(
    ctx,
    { requestId, clientId, kind, firstName, lastName, email, phone },
  ): Promise<Result<{ id: Id<"Relation"> }, CommonError>> {
    const { repo, practice } = ctx;
    const id = requestId as Id<"Relation">;
    if (!(await repo.clients.byId(practice.id, clientId))) return notFound;
    const fresh = await repo.relations.add({
      id,
      clientId,
      kind: kind as Relation["kind"],
      prefers: email ? "email" : "text",
      createdAt: ctx.now,
      person: { firstName, lastName, ...(email ? { email } : {}), ...(phone ? { phone } : {}) },
    });
    ctx.journal(fresh ? "relation.add" : "relation.add-repeated", `client:${clientId}`);
    return ok({ id });
  },
});

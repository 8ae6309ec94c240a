import { object } from "yup";
import type { EntryChange } from "../../core/chart";
import { identitySchema, seenSchema } from "../../core/forms";
import { fail, ok, type Result } from "../../core/shared";
import type { Client } from "../../db/repositories";
import { chartByStaff, command, idInput, notFound, type CommonError } from "../kit";

/** What stands on the page, for `seen`. */
export const identityState = ({ firstName, lastName, preferredName, birthDate }: IdentityFields): object => ({
  firstName,
  lastName,
  preferredName: preferredName ?? "",
  birthDate: birthDate ?? "",
});
type IdentityFields = Pick<Client, "firstName" | "lastName"> & {
  readonly preferredName?: string | undefined;
  readonly birthDate?: string | undefined;
};

/** Another name or birth date, through the chart's ledger: what stood there stays in its history. */
export const changeIdentity = command({
  name: "change-identity",
  access: "people.write",
  input: identitySchema.concat(seenSchema).concat(object({ clientId: idInput<"Client">() })),
  async run(ctx, { clientId, seen, ...wanted }): Promise<Result<null, CommonError | { readonly reason: "changed" }>> {
    const { repo, practice, sha256 } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const client = (await repo.clients.byId(practice.id, clientId))!;
    const digest = (state: object): string => sha256(JSON.stringify(state));
    const there = digest(identityState(client));
    if (there !== seen && there !== digest(identityState(wanted))) return fail({ reason: "changed" });
    const fields = {
      "first-name": [client.firstName, wanted.firstName],
      "last-name": [client.lastName, wanted.lastName],
      "preferred-name": [client.preferredName ?? "", wanted.preferredName],
      "birth-date": [client.birthDate ?? "", wanted.birthDate ?? ""],
    } as const;
    const changes = Object.entries(fields).flatMap(([field, [before, value]]): EntryChange[] =>
      before === value ? [] : [{ kind: "set", field, value }],
    );
    if (changes.length > 0) await chartByStaff(ctx, clientId, "post", changes, "Told us");
    ctx.journal("client.change-identity", `client:${clientId}`, { fields: changes.length });
    return ok(null);
  },
});

/** No longer come: in no list but where one asks for them, and written to by nothing. What is open stays open. */
export const archiveClient = command({
  name: "archive-client",
  access: "people.write",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<null, CommonError | { readonly reason: "visits-ahead" }>> {
    const { repo, practice, now } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    const visits = await repo.visits.ofClient(practice.id, clientId);
    if (visits.some(({ endsAt }) => endsAt > now)) return fail({ reason: "visits-ahead" });
    await repo.clients.update(clientId, { archivedAt: now });
    ctx.journal("client.archive", `client:${clientId}`);
    return ok(null);
  },
});
export const bringBackClient = command({
  name: "bring-back-client",
  access: "people.write",
  input: object({ clientId: idInput<"Client">() }),
  async run(ctx, { clientId }): Promise<Result<null, CommonError>> {
    const { repo, practice } = ctx;
    if (!(await repo.clients.hold(practice.id, clientId))) return notFound;
    if ((await repo.clients.byId(practice.id, clientId))?.mergedInto) return notFound;
    await repo.clients.update(clientId, { archivedAt: null });
    ctx.journal("client.bring-back", `client:${clientId}`);
    return ok(null);
  },
});

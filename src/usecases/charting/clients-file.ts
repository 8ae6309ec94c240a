import { array, mixed, number, object, ValidationError } from "yup";
import { contactsOf, writeTable, type ClientRow, type EntryChange } from "../../core/chart";
import { clientRowSchema } from "../../core/forms";
import { fail, mainLanguage, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { ImportRow } from "../../db/repositories";
import {
  chartByStaff,
  command,
  idInput,
  nothing,
  notFound,
  query,
  requestInput,
  type CommonError,
  type Context,
  type StaffActor,
} from "../kit";

const importInput = object({ importId: idInput<"Import">() });
/** An import that this member of staff began; nobody else's. */
async function ownImport({ repo, practice, actor }: Context<StaffActor>, id: Id<"Import">, forUpdate = false) {
  const found = await repo.clientImports.byId(practice.id, id, forUpdate);
  return found?.staffId === actor.id ? found : undefined;
}

/**
 * Makes room for a file's rows. The request's id becomes the import's; begun again before anybody was added, what was
 * checked before is forgotten, as its columns may have been others.
 */
export const beginImport = command({
  name: "begin-import",
  access: "people.write",
  input: object({ requestId: requestInput }),
  async run(ctx, { requestId }): Promise<Result<{ id: Id<"Import"> }, CommonError>> {
    const id = requestId as Id<"Import">;
    const { practice, actor, now } = ctx;
    if (!(await ctx.repo.clientImports.add({ id, practiceId: practice.id, staffId: actor.id, createdAt: now }))) {
      const there = await ownImport(ctx, id, true);
      if (!there || there.startedAt !== null) return notFound;
      await ctx.repo.clientImports.clearRows(id);
    }
    ctx.journal("clients.import-begin", `import:${id}`);
    return ok({ id });
  },
});

export const mostRowsAtOnce = 200;
const isRow = (v: unknown): v is ClientRow =>
  typeof v === "object" &&
  v !== null &&
  Object.values(v).every((cell) => typeof cell === "string" && cell.length <= 1000);
const rowInput = object({
  line: number().integer().min(1).max(1_000_000).required(),
  cells: mixed<ClientRow>(isRow).required(),
  /** An earlier line of the file that is the same person. */
  twin: number().integer().min(1).optional(),
});
type Row = ReturnType<typeof clientRowSchema.validateSync>;
/** What is wrong with a row, or what it says. */
function checkedRow(cells: ClientRow): Result<Row, string> {
  try {
    return ok(clientRowSchema.validateSync(cells, { abortEarly: false, stripUnknown: true }));
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    return fail(error.errors.join(" "));
  }
}
const identityIn = ({ firstName, lastName, preferredName, birthDate, email, phone }: Row) => ({
  firstName,
  lastName,
  ...(preferredName ? { preferredName } : {}),
  ...(birthDate ? { birthDate } : {}),
  ...(email ? { email } : {}),
  ...(phone ? { phone } : {}),
});
const isHere = "Is here already, by name, e-mail or phone.";

/** Checks some rows and keeps them with what is wrong; nobody is added by it. A row that came before stays. */
export const checkRows = command({
  name: "check-rows",
  access: "people.write",
  input: importInput.concat(object({ rows: array(rowInput.required()).max(mostRowsAtOnce).required() })),
  async run(ctx, { importId, rows }): Promise<Result<null, CommonError>> {
    const found = await ownImport(ctx, importId, true);
    if (!found || found.startedAt !== null) return notFound;
    const directory = await ctx.directory();
    await ctx.repo.clientImports.addRows(
      importId,
      rows.map(({ line, cells, twin }): ImportRow => {
        const checked = checkedRow(cells);
        const reason = () => {
          if (!checked.ok) return checked.error;
          if (twin !== undefined) return `Is the same person as line ${twin}.`;
          return directory.same(identityIn(checked.value)) ? isHere : undefined;
        };
        const why = reason();
        return { line, state: why === undefined ? "ready" : "refused", cells, reason: why };
      }),
    );
    ctx.journal("clients.check", `import:${importId}`, { rows: rows.length });
    return ok(null);
  },
});

export interface ImportView {
  readonly id: Id<"Import">;
  readonly createdAt: Instant;
  readonly started: boolean;
  readonly over: boolean;
  readonly ready: number;
  readonly added: number;
  readonly refused: number;
  /** The first of the refused. */
  readonly refusedRows: readonly ImportRow[];
}
const mostRefused = 40;
export const importView = query({
  name: "import-view",
  access: "people.write",
  input: importInput,
  async run(ctx, { importId }): Promise<Result<ImportView, CommonError>> {
    const found = await ownImport(ctx, importId);
    if (!found) return notFound;
    return ok({
      id: found.id,
      createdAt: found.createdAt,
      started: found.startedAt !== null,
      over: found.finishedAt !== null,
      ...(await ctx.repo.clientImports.tally(importId)),
      refusedRows: await ctx.repo.clientImports.rows(importId, "refused", mostRefused),
    });
  },
});
/** Imports of one's own that are not dropped yet, oldest first. */
export const ownImports = query({
  name: "own-imports",
  access: "people.write",
  input: nothing,
  async run({ repo, actor }): Promise<Result<readonly { id: Id<"Import">; createdAt: Instant }[], never>> {
    return ok((await repo.clientImports.ofStaff(actor.id)).map(({ id, createdAt }) => ({ id, createdAt })));
  },
});

/** From here on the rows that are right are added, by themselves. */
export const startImport = command({
  name: "start-import",
  access: "people.write",
  input: importInput,
  async run(ctx, { importId }): Promise<Result<null, CommonError>> {
    const found = await ownImport(ctx, importId, true);
    if (!found) return notFound;
    if (found.startedAt === null) await ctx.repo.clientImports.set(importId, { startedAt: ctx.now });
    ctx.journal("clients.import", `import:${importId}`);
    return ok(null);
  },
});
const atOnce = 20;
/**
 * Adds the next few, with the mark that they were, in one transaction. Who came to be here meanwhile is refused. Says
 * whether somebody is left.
 */
export const addNext = command({
  name: "add-next",
  access: "people.write",
  input: importInput,
  async run(ctx, { importId }): Promise<Result<{ more: boolean }, CommonError | { readonly reason: "held" }>> {
    const { repo, practice, now, random, actor } = ctx;
    const found = await ownImport(ctx, importId);
    if (!found || found.startedAt === null) return notFound;
    const directory = await ctx.directory();
    const rows = found.finishedAt === null ? await repo.clientImports.next(importId, atOnce) : [];
    if (rows.length === 0) {
      if (found.finishedAt === null && (await repo.clientImports.tally(importId)).ready > 0)
        return fail({ reason: "held" });
      if (found.finishedAt === null) await repo.clientImports.set(importId, { finishedAt: now });
      ctx.journal("clients.import-end", `import:${importId}`);
      return ok({ more: false });
    }
    const added: number[] = [];
    for (const row of rows) {
      const checked = checkedRow(row.cells);
      const why = checked.ok ? directory.same(identityIn(checked.value)) && isHere : checked.error;
      if (why || !checked.ok) await repo.clientImports.refuse(importId, row, why || isHere);
      else {
        const id = random.id<"Client">();
        const identity = identityIn(checked.value);
        await repo.clients.add({
          id,
          practiceId: practice.id,
          language: checked.value.language ?? mainLanguage(practice.locale),
          prefers: contactsOf(identity, "email")?.channel ?? "email",
          createdAt: now,
          identity,
        });
        if (ctx.sight !== "all" || actor.role === "practitioner") await repo.careTeams.join(id, actor.id);
        await chartByStaff(ctx, id, "start", changesOf(checked.value), "Brought in from a file");
        added.push(row.line);
      }
    }
    await repo.clientImports.markAdded(importId, added);
    ctx.journal("clients.import", `import:${importId}`, { added: added.length, refused: rows.length - added.length });
    return ok({ more: true });
  },
});
const changesOf = ({ firstName, lastName, preferredName, birthDate, email, phone, address }: Row): EntryChange[] =>
  Object.entries({
    "first-name": firstName,
    "last-name": lastName,
    "preferred-name": preferredName,
    "birth-date": birthDate,
    email,
    phone,
    address,
  }).flatMap(([field, value]): EntryChange[] => (value ? [{ kind: "set", field, value }] : []));

/** What is left of it goes: rows that were refused are kept nowhere else. Who was added stays. */
export const dropImport = command({
  name: "drop-import",
  access: "people.write",
  input: importInput,
  async run(ctx, { importId }): Promise<Result<null, CommonError | { readonly reason: "under-way" }>> {
    const found = await ownImport(ctx, importId, true);
    if (!found) return notFound;
    if (found.startedAt !== null && found.finishedAt === null) return fail({ reason: "under-way" });
    await ctx.repo.clientImports.remove(importId);
    ctx.journal("clients.import-drop", `import:${importId}`);
    return ok(null);
  },
});
const mostInFile = 1_000_000;
/** The refused rows as a table: what they held, and why. */
export const refusedRows = command({
  name: "refused-rows",
  access: "people.write",
  input: importInput,
  async run(ctx, { importId }): Promise<Result<string, CommonError>> {
    const found = await ownImport(ctx, importId);
    if (!found) return notFound;
    const rows = await ctx.repo.clientImports.rows(importId, "refused", mostInFile);
    ctx.journal("clients.refused", `import:${importId}`, { rows: rows.length });
    return ok(
      writeTable([
        ["Line", "Why", ...fileColumns.map(([, heading]) => heading)],
        ...rows.map(({ line, reason, cells }) => [
          String(line),
          reason ?? "",
          ...fileColumns.map(([column]) => cells[column] ?? ""),
        ]),
      ]),
    );
  },
});
const fileColumns = [
  ["firstName", "First name"],
  ["lastName", "Last name"],
  ["preferredName", "Likes to be called"],
  ["birthDate", "Birth date"],
  ["email", "E-mail"],
  ["phone", "Phone"],
  ["address", "Address"],
  ["language", "Language"],
] as const satisfies readonly (readonly [keyof ClientRow, string])[];

/** Everybody in sight as a table that can be brought in again: who they are and how they are reached. */
export const exportClients = command({
  name: "export-clients",
  access: "export",
  input: nothing,
  async run(ctx): Promise<Result<string, CommonError>> {
    const people = (await ctx.directory()).all("last").filter(({ isTest }) => !isTest);
    ctx.journal("clients.export", "practice", { people: people.length });
    return ok(
      writeTable([
        ["First name", "Last name", "Likes to be called", "Birth date", "E-mail", "Phone", "Language", "Archived"],
        ...people.map((one) => [
          one.firstName,
          one.lastName,
          one.preferredName ?? "",
          one.birthDate ?? "",
          one.email ?? "",
          one.phone ?? "",
          one.language,
          one.archivedAt === null ? "" : one.archivedAt.slice(0, 10),
        ]),
      ]),
    );
  },
});

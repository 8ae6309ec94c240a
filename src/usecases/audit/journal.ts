import { boolean, mixed, number, object, string, type InferType } from "yup";
import {
  actionsOfKind,
  journalKinds,
  journalWords,
  readAnchor,
  type Anchor,
  type JournalAction,
  type JournalBreak,
  type JournalKind,
  type KeptHead,
} from "../../core/audit";
import { nameOf, writeTable } from "../../core/chart";
import { boundsOf, isDay } from "../../core/scheduling";
import { fail, isId, ok, type Id, type Instant, type Result } from "../../core/shared";
import type { JournalRow, JournalWish, Refusal } from "../../db/repositories";
import { command, may, nothing, query, type CommonError, type Context } from "../kit";

/** A row, with whom it is about and who did it in words. */
export interface JournalEntry {
  readonly seq: number;
  readonly at: Instant;
  readonly action: JournalAction;
  /** In words, with what leads up to them; empty where nobody knows. */
  readonly by: string;
  readonly address: string;
  /** Which colleague it is about, where it is about one. */
  readonly colleague: string | undefined;
  /** What it was done to, where that is nobody's: a questionnaire, the practice. */
  readonly kind: string;
  readonly client: { readonly id: Id<"Client">; readonly name: string; readonly isErased: boolean } | undefined;
}
export interface JournalPage {
  readonly rows: readonly JournalEntry[];
  /** What comes next is before this row; undefined where nothing does. */
  readonly before: number | undefined;
}
export interface JournalView {
  readonly first: JournalPage;
  /** How many rows there are. */
  readonly head: number;
  /** Up to where it was walked last, and when. */
  readonly checked: Pick<KeptHead, "seq" | "at"> | undefined;
  /** Where it stood when that was last kept outside the database. */
  readonly kept: Anchor | undefined;
  readonly refusals: readonly Refusal[];
  /** Everybody who could have done something, by what the journal calls them. */
  readonly people: Readonly<Record<string, string>>;
  /** Whether owners get an anchor by mail each day; undefined for who may not say so. */
  readonly mailsAnchors: boolean | undefined;
  readonly mayTakeOut: boolean;
}
const rowsOnPage = 100;
/** Of a stranger there is nothing to say. */
const actorKinds: Readonly<Record<string, string>> = {
  stranger: "",
  client: "on the client’s page",
  system: "by the app itself",
};
const peopleOf = async ({ repo, practice }: Context): Promise<Record<string, string>> =>
  Object.fromEntries((await repo.staff.all(practice.id)).map(({ id, name }) => [`staff:${id}`, name]));

const wishInput = object({
  /** As the journal calls them: `staff:<id>`, `stranger`, `system`. */
  who: string().max(100).default(""),
  clientId: string()
    .max(36)
    .test("id", (id) => id === undefined || id === "" || isId(id))
    .default(""),
  kind: mixed<JournalKind | "">(
    (v): v is JournalKind | "" => v === "" || journalKinds.includes(v as JournalKind),
  ).default(""),
  /** Days in the practice's zone, as YYYY-MM-DD; the last one is among them. */
  from: string()
    .test("day", (day) => !day || isDay(day))
    .default(""),
  until: string()
    .test("day", (day) => !day || isDay(day))
    .default(""),
  before: number().integer().min(0),
});
export type JournalAsked = Partial<InferType<typeof wishInput>>;

/** Everything of a client's that the journal may speak of. */
async function subjectsOf({ repo, practice }: Context, clientId: Id<"Client">): Promise<string[]> {
  const packets = await repo.packets.idsOf(practice.id, clientId);
  const notes = await repo.notes.idsOf(practice.id, clientId);
  return [`client:${clientId}`, ...packets.map((id) => `packet:${id}`), ...notes.map((id) => `note:${id}`)];
}
async function wishOf(ctx: Context, asked: InferType<typeof wishInput>): Promise<JournalWish> {
  const { zone } = ctx.practice;
  const { who, clientId, kind, from, until, before } = asked;
  return {
    ...(who === "" ? {} : { actor: who }),
    ...(kind === "" ? {} : { actions: actionsOfKind(kind) }),
    ...(clientId === "" ? {} : { subjects: await subjectsOf(ctx, clientId as Id<"Client">) }),
    ...(from === "" ? {} : { from: boundsOf(from, zone)[0] }),
    ...(until === "" ? {} : { until: boundsOf(until, zone)[1] }),
    before,
  };
}
/** Rows with names, as far as there are any. */
async function entriesOf(ctx: Context, rows: readonly JournalRow[]): Promise<JournalEntry[]> {
  const { repo, practice } = ctx;
  const parts = rows.map(({ subject }) => subject.split(":") as [string, string | undefined]);
  const idsOf = (kind: string): string[] => parts.flatMap(([what, id]) => (what === kind && id && isId(id) ? id : []));
  const packets = await repo.packets.clientsOf(practice.id, idsOf("packet") as Id<"Packet">[]);
  const notes = await repo.notes.clientsOf(practice.id, idsOf("note") as Id<"Note">[]);
  const whose = (what: string, id: string | undefined): Id<"Client"> | undefined => {
    if (what === "client") return id as Id<"Client">;
    return what === "packet" ? packets.get(id ?? "") : notes.get(id ?? "");
  };
  const clients = await repo.clients.byIds(practice.id, [
    ...new Set(parts.flatMap(([what, id]) => whose(what, id) ?? [])),
  ]);
  const people = await peopleOf(ctx);
  return rows.map((row, index) => {
    const [what, id] = parts[index]!;
    const client = clients.get(whose(what, id) ?? "");
    return {
      seq: row.seq,
      at: row.at,
      action: row.action,
      by: byOf(row.actor, people),
      colleague: people[row.subject],
      address: row.address,
      kind: what,
      client: client && { id: client.id, name: nameOf(client), isErased: client.erasedAt !== null },
    };
  });
}
function byOf(actor: string, people: Readonly<Record<string, string>>): string {
  const name = people[actor];
  return name === undefined ? (actorKinds[actor.split(":")[0]!] ?? `by ${actor}`) : `by ${name}`;
}
async function pageOf(ctx: Context, wish: JournalWish): Promise<JournalPage> {
  const rows = await ctx.repo.journal.find(ctx.practice.id, wish, rowsOnPage + 1);
  const shown = rows.slice(0, rowsOnPage);
  return { rows: await entriesOf(ctx, shown), before: rows.length > rowsOnPage ? shown.at(-1)!.seq : undefined };
}
/** The newest rows, and what is known of the chain so far: walking it is `checkJournal`'s, a piece at a time. */
export const journalView = query({
  name: "journal-view",
  access: "journal.read",
  input: nothing,
  async run(ctx): Promise<Result<JournalView, never>> {
    const { repo, practice, keptHeads } = ctx;
    ctx.journal("journal.view", "practice");
    return ok({
      first: await pageOf(ctx, {}),
      head: (await repo.journal.head(practice.id)).seq,
      checked: await repo.journal.checked(practice.id),
      kept: keptHeads.all().findLast((k) => k.practiceId === practice.id),
      refusals: await repo.journal.refusals(practice.id, 50),
      people: await peopleOf(ctx),
      mailsAnchors: may(ctx, "staff.manage") ? practice.mailsAnchors : undefined,
      mayTakeOut: may(ctx, "export"),
    });
  },
});
/** Rows of the journal that fit what is asked, a page at a time. */
export const findInJournal = query({
  name: "find-in-journal",
  access: "journal.read",
  input: wishInput,
  async run(ctx, asked): Promise<Result<JournalPage, CommonError>> {
    return ok(await pageOf(ctx, await wishOf(ctx, asked)));
  },
});
const rowsOfFile = 2000;
/** The same as lines of a table, some at a time; the first time it is written down that somebody took them out. */
export const journalTable = query({
  name: "journal-table",
  access: "journal.read",
  input: wishInput,
  async run(ctx, asked): Promise<Result<{ table: string; before: number | undefined }, CommonError>> {
    if (!may(ctx, "export")) return fail({ reason: "not-allowed" });
    const isFirst = asked.before === undefined;
    const rows = await ctx.repo.journal.find(ctx.practice.id, await wishOf(ctx, asked), rowsOfFile);
    const entries = await entriesOf(ctx, rows);
    if (isFirst) ctx.journal("journal.export", "practice");
    const heading = ["row", "at", "what", "action", "by", "from", "client", "about", "detail", "hash"];
    const lines = entries.map(({ seq, at, action, by, address, kind, client, colleague }, index) => {
      const { detail, hash, subject } = rows[index]!;
      const about = client ? subject : kind;
      return [
        String(seq),
        at,
        journalWords[action] ?? action,
        action,
        by,
        address,
        client?.name ?? colleague ?? "",
        about,
        JSON.stringify(detail),
        hash,
      ];
    });
    return ok({
      table: writeTable(isFirst ? [heading, ...lines] : lines),
      before: rows.length === rowsOfFile ? rows.at(-1)!.seq : undefined,
    });
  },
});
export type AnchorError = CommonError | { readonly reason: "no-anchor" };
/** Whether the journal goes through what was written down of it before. */
export const checkAnchor = query({
  name: "check-anchor",
  access: "journal.read",
  input: object({ text: string().max(5000).required("Paste the line that begins with “journal”.") }),
  async run({ repo, practice }, { text }): Promise<Result<Anchor & { readonly holds: boolean }, AnchorError>> {
    const anchor = readAnchor(text);
    if (!anchor) return fail({ reason: "no-anchor" });
    return ok({ ...anchor, holds: (await repo.journal.hashAt(practice.id, anchor.seq)) === anchor.hash });
  },
});
export const setMailsAnchors = command({
  name: "set-mails-anchors",
  access: "staff.manage",
  input: object({ on: boolean().required() }),
  async run(ctx, { on }): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.setMailsAnchors(ctx.practice.id, on);
    ctx.journal("journal.mail-anchors", "practice", { on });
    return ok(null);
  },
});

/** Rows looked at in one go: about a tenth of a second. */
export const rowsAtOnce = 2000;
export interface JournalProgress {
  readonly seq: number;
  readonly head: number;
  readonly done: boolean;
  readonly broken: JournalBreak | undefined;
  readonly at: Instant;
}
/**
 * Walks the next rows of the journal's chain after `from`; without it, from where it was walked last. How far it came
 * is remembered under a key, and only where nothing before was left out. Asking again with what it gave goes on.
 */
export const checkJournal = query({
  name: "check-journal",
  access: "journal.read",
  input: object({ from: number().integer().min(0) }),
  async run(ctx, { from }): Promise<Result<JournalProgress, CommonError>> {
    const { repo, practice, keptHeads, now } = ctx;
    const checked = await repo.journal.checked(practice.id);
    // Before the head is read: what is kept is never further on than the head. The chain went through where it was
    // walked last, too.
    const kept = [...keptHeads.all(), ...(checked ? [checked] : [])];
    const begin = from ?? checked?.seq ?? 0;
    const step = await repo.journalCheck.step(practice.id, begin, rowsAtOnce, kept);
    if (!step.broken && begin <= (checked?.seq ?? 0))
      await repo.journal.setChecked({ practiceId: practice.id, seq: step.seq, hash: step.hash, at: now });
    if (step.done) ctx.journal("journal.check", "practice", { rows: step.seq, holds: !step.broken });
    return ok({ seq: step.seq, head: step.head, done: step.done, broken: step.broken, at: now });
  },
});

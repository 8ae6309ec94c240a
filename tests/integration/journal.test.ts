import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import pg from "pg";
import { parse } from "csv-parse/sync";
import { actionsOfKind, type JournalBreak, type KeptHead } from "../../src/core/audit";
import type { Id } from "../../src/core/shared";
import { openPostgres } from "../../src/db/client.postgres";
import type { Db } from "../../src/db/database";
import { repositories } from "../../src/db/repositories";
import { journalHash, type JournalRow } from "../../src/db/repositories/journal";
import { heardErased, keepHead, mailAnchors, useCases, walkJournal, type JournalEntry } from "../../src/server";
import { seedPackets } from "../../demo/seed";
import { must } from "../../demo/walk";
import { kinds, serverUrl, World } from "../support/world";

describe.each(kinds)("the journal on %s, against somebody with the database and without the key", (kind) => {
  let world: World;
  let practice: Id<"Practice">;
  beforeAll(async () => {
    world = await World.open(kind);
    practice = (await world.app.practice())!.id;
    await seedPackets(world.app, world.seeded);
  });
  afterAll(() => world.close());

  /** What a walk finds after `attack`, which is taken back then. */
  async function found(
    attack: (db: Db) => Promise<unknown>,
    kept: readonly KeptHead[] = world.app.ports.keptHeads.all(),
  ): Promise<JournalBreak | undefined> {
    const undone = new Error("undone");
    let broken: JournalBreak | undefined;
    await world.app.database.db
      .transaction(async (tx) => {
        for (const table of ["journal", "journal_head", "chart_entry", "posting", "signature"])
          await tx.execute(sql.raw(`alter table ${table} disable trigger all`));
        await attack(tx);
        for (let seq = 0; ;) {
          const step = await repositories(tx, world.app.ports.sealer).journalCheck.step(practice, seq, 100, kept);
          ({ seq, broken } = step);
          if (step.done) break;
        }
        throw undone;
      })
      .catch((error: unknown) => {
        if (error !== undone) throw error;
      });
    return broken;
  }
  /** As somebody would who knows how rows are hashed: the chain fits again, from this row to the head. */
  async function chainAnew(db: Db, from: number): Promise<void> {
    const rows = (await repositories(db, world.app.ports.sealer).journal.latest(practice, 100_000)).reverse();
    let hash = rows.findLast((r) => r.seq < from)?.hash ?? "0".repeat(64);
    for (const row of rows.filter((r) => r.seq >= from)) {
      const next: JournalRow = { ...row, prevHash: hash };
      hash = journalHash(practice, next);
      await db.execute(sql`update journal set prev_hash = ${next.prevHash}, hash = ${hash} where seq = ${row.seq}`);
    }
    await db.execute(sql`update journal_head set seq = (select max(seq) from journal), hash = ${hash}`);
  }
  const nothing = (): Promise<void> => Promise.resolve();

  it("holds when nobody touched it, and its head is kept outside", async () => {
    await keepHead(world.app);
    expect(await found(nothing)).toBeUndefined();
    const { rows, broken } = await walkJournal(world.app);
    expect(broken).toBeUndefined();
    expect(world.app.ports.keptHeads.all().at(-1)).toMatchObject({ practiceId: practice, seq: rows });
  });
  it("shows a row that was rewritten, however well the chain was made to fit again", async () => {
    expect(await found((db) => db.execute(sql`update journal set address = 'elsewhere' where seq = 7`))).toEqual({
      seq: 7,
      fault: "row-changed",
    });
    const rewrite = async (db: Db): Promise<void> => {
      await db.execute(sql`update journal set address = 'elsewhere' where seq = 7`);
      await chainAnew(db, 7);
    };
    expect(await found(rewrite, [])).toEqual({ seq: 7, fault: "row-changed" });
    // A row that says it is from before there were marks.
    const unmark = async (db: Db): Promise<void> => {
      await db.execute(sql`update journal set mark = '', address = 'elsewhere' where seq = 7`);
      await chainAnew(db, 7);
    };
    expect(await found(unmark, [])).toEqual({ seq: 7, fault: "row-changed" });
  });
  it("shows a row that was taken out, and two that changed places", async () => {
    expect(await found((db) => db.execute(sql`delete from journal where seq = 9`))).toEqual({
      seq: 9,
      fault: "row-missing",
    });
    const swap = async (db: Db): Promise<void> => {
      await db.execute(sql`update journal set seq = -1 where seq = 9`);
      await db.execute(sql`update journal set seq = 9 where seq = 10`);
      await db.execute(sql`update journal set seq = 10 where seq = -1`);
      await chainAnew(db, 9);
    };
    const last = world.app.ports.keptHeads.all().at(-1)!.seq;
    expect(await found(swap)).toEqual({ seq: last, fault: "other-than-kept" });
  });
  it("shows an end that was cut off, and a whole journal written anew", async () => {
    const cut = async (db: Db): Promise<void> => {
      await db.execute(sql`delete from journal where seq > 20`);
      await db.execute(
        sql`update journal_head set seq = 20, hash = (select hash from journal where seq = 20), prev_hash = (select prev_hash from journal where seq = 20)`,
      );
    };
    expect(await found(cut)).toEqual({ seq: 21, fault: "cut-off" });
    const emptied = async (db: Db): Promise<void> => {
      await db.execute(sql`delete from journal`);
      await db.execute(sql`update journal_head set seq = 0, hash = ${"0".repeat(64)}`);
    };
    expect(await found(emptied)).toEqual({ seq: 1, fault: "cut-off" });
    // What was kept outside counts only with its mark.
    const forged = world.app.ports.keptHeads.all().map((k) => ({ ...k, hash: "f".repeat(64) }));
    expect(await found(nothing, forged)).toBeUndefined();
  });
  it("shows what was done to chart entries and signatures that it speaks of", async () => {
    const db = world.app.database.db;
    const rowOf = async (action: string): Promise<number> =>
      (await repositories(db, world.app.ports.sealer).journal.latest(practice, 100_000)).find(
        (r) => r.action === action,
      )!.seq;
    const posted = await rowOf("chart.append");
    const lastEntry = sql`(select posting_id from chart_entry order by at desc, seq desc limit 1)`;
    const postedRow = (await repositories(db, world.app.ports.sealer).journal.latest(practice, 100_000)).find(
      (r) => r.seq === posted,
    )!;
    expect(
      await found((tx) =>
        tx.execute(sql`delete from chart_entry where posting_id = ${String(postedRow.detail["posting"])}::uuid`),
      ),
    ).toEqual({ seq: posted, fault: "chart-changed" });
    expect(
      await found((tx) =>
        tx.execute(sql`update chart_entry set at = at - interval '1 day' where posting_id = ${lastEntry}`),
      ),
    ).toMatchObject({
      fault: "chart-changed",
    });
    expect(
      await found((tx) =>
        tx.execute(
          sql`insert into posting (id, client_id, request_id, kind, by, at) select gen_random_uuid(), client_id, 'forged', 'post', by, at from posting limit 1`,
        ),
      ),
    ).toMatchObject({ fault: "unknown-rows" });
    const signed = await rowOf("signature");
    expect(await found((tx) => tx.execute(sql`delete from signature`))).toMatchObject({ fault: "signature-changed" });
    expect(signed).toBeGreaterThan(0);
  });
  it("is walked from where it was walked last, which nobody without the key can say", async () => {
    const step = async (from?: number) => must(await world.do(useCases.checkJournal, world.as("maren"), { from }));
    expect(await step(0)).toMatchObject({ done: true, broken: undefined });
    const { checked } = must(await world.do(useCases.journalView, world.as("maren"), {}));
    expect(checked?.seq).toBeGreaterThan(50);
    const again = await step();
    expect(again).toMatchObject({ done: true, broken: undefined });
    expect(again.seq).toBeGreaterThan(checked!.seq);
    const { db } = world.app.database;
    await db.execute(sql`update journal_head set checked = checked || '{"seq": 3}'::jsonb`);
    expect(must(await world.do(useCases.journalView, world.as("maren"), {})).checked).toBeUndefined();
    expect(await step()).toMatchObject({ done: true, broken: undefined });
  });
  it("is looked up by person, client, kind and time, a page at a time, and taken out as a table", async () => {
    const find = async (asked: object) => must(await world.do(useCases.findInJournal, world.as("maren"), asked));
    const all: JournalEntry[] = [];
    for (let before: number | undefined; ;) {
      const page = await find({ before });
      all.push(...page.rows);
      if (page.before === undefined) break;
      ({ before } = page);
    }
    const { seq: head } = await world.repo.journal.head(practice);
    expect(all.map(({ seq }) => seq)).toEqual(Array.from({ length: head }, (_, index) => head - index));
    const ines = world.seeded.clients["hugo"]!;
    const theirs = await find({ clientId: ines });
    expect(theirs.rows.length).toBeGreaterThan(3);
    for (const row of theirs.rows) expect(row.client).toMatchObject({ id: ines, name: "Hugo Lindgren" });
    expect(theirs.rows.map(({ action }) => action)).toEqual(expect.arrayContaining(["packet.send", "packet.return"]));
    const staff = world.seeded.staff["maren"]!;
    const hers = await find({ who: `staff:${staff}` });
    expect(new Set(hers.rows.map(({ by }) => by)).size).toBe(1);
    const answers = await find({ kind: "answers", from: "2026-11-25", until: "2026-11-25" });
    expect(answers.rows.length).toBeGreaterThan(0);
    for (const row of answers.rows) expect(actionsOfKind("answers")).toContain(row.action);
    expect((await find({ until: "2001-01-01" })).rows).toEqual([]);
    for (const bad of [{ kind: "nonsense" }, { from: "2026-13-01" }, { clientId: "x" }])
      expect(await world.do(useCases.findInJournal, world.as("maren"), bad)).toMatchObject({
        error: { reason: "invalid" },
      });
    const { table } = must(await world.do(useCases.journalTable, world.as("maren"), { clientId: ines }));
    const rows = parse(table, { columns: true }) as { row: string; about: string; what: string }[];
    expect(rows.length).toBe(theirs.rows.length);
    expect(rows.map(({ row }) => Number(row))).toEqual(theirs.rows.map(({ seq }) => seq));
    // Whoever may see it but not take answers out does not take it out either.
    expect(await world.do(useCases.journalTable, world.as("pia"), {})).toMatchObject({
      error: { reason: "not-allowed" },
    });
  });
  it("is checked by an anchor that somebody kept, which goes out by mail once a day where it is wished", async () => {
    const mails = async () =>
      (await world.repo.outbox.latest(practice, 200)).filter(({ purpose }) => purpose === "anchor");
    await mailAnchors(world.app);
    expect(await mails()).toEqual([]);
    must(await world.do(useCases.setMailsAnchors, world.as("maren"), { on: true }));
    for (let round = 0; round < 3; round++) await mailAnchors(world.app);
    const [mail, ...more] = await mails();
    expect(more).toEqual([]);
    const check = async (text: string) => world.do(useCases.checkAnchor, world.as("maren"), { text });
    expect(must(await check(mail!.body)).holds).toBe(true);
    expect(must(await check(mail!.body.replace(/journal \d+/, "journal 3"))).holds).toBe(false);
    expect(await check("Dear Maren")).toMatchObject({ error: { reason: "no-anchor" } });
    world.wait(24 * 60);
    await mailAnchors(world.app);
    expect(await mails()).toHaveLength(2);
    world.wait(-24 * 60);
    must(await world.do(useCases.setMailsAnchors, world.as("maren"), { on: false }));
  });
  it("counts what is refused, and gets no longer by it", async () => {
    const before = (await world.repo.journal.head(practice)).seq;
    for (let count = 0; count < 150; count++)
      expect(await world.do(useCases.journalView, world.stranger, {})).toMatchObject({
        error: { reason: "not-allowed" },
      });
    expect((await world.repo.journal.head(practice)).seq).toBe(before);
    expect(await world.repo.journal.refusals(practice, 500)).toContainEqual(
      expect.objectContaining({ useCase: "journal-view", actor: "stranger", count: 150, address: "192.0.2.7" }),
    );
  });
  it("no statement cuts or empties it, whoever is connected", async () => {
    const { db } = world.app.database;
    for (const statement of [
      "truncate journal",
      "truncate journal_head cascade",
      "delete from journal_head",
      "delete from journal where seq = 1",
    ])
      await expect(db.execute(sql.raw(statement))).rejects.toThrow();
  });
});

describe.runIf(serverUrl !== undefined)("the application's own role on a PostgreSQL server", () => {
  it("runs on it, and can neither change nor cut what the ledgers hold", async () => {
    const role = `kl_app_${process.pid}`;
    const name = `${role}_db`;
    const admin = new pg.Client({ connectionString: serverUrl });
    await admin.connect();
    await admin.query(`create role ${role} login`);
    await admin.query(`create database ${name}`);
    const owner = serverUrl!.replace(/\/[^/]*$/, `/${name}`);
    const mine = owner.replace(/\/\/[^@]*@/, `//${role}@`);
    const warned: string[] = [];
    const database = await openPostgres(mine, (message) => warned.push(message), owner);
    const world = await World.over(database);
    await seedPackets(world.app, world.seeded);
    expect((await walkJournal(world.app)).broken).toBeUndefined();
    expect(must(await world.do(useCases.checkJournal, world.as("maren"), {}))).toMatchObject({ done: true });
    for (const statement of [
      "alter table journal disable trigger all",
      "update journal set address = ''",
      "delete from journal",
      "truncate journal",
      "update journal_head set seq = 1",
      "insert into journal (practice_id, seq, at, actor, action, subject, address, detail, prev_hash, hash) select practice_id, -1, at, actor, action, subject, address, detail, prev_hash, hash from journal limit 1",
      "delete from chart_entry",
      "truncate signature",
      "update posting set by = ''",
      "create or replace function write_journal(uuid, timestamptz, jsonb, jsonb) returns bigint language sql as 'select 1::bigint'",
      "drop table note",
      "delete from client_erasure",
    ])
      await expect(database.db.execute(sql.raw(statement)), statement).rejects.toThrow();
    // Erasing somebody needs nothing that it may not.
    const clientId = world.seeded.clients["hugo"]!;
    must(
      await world.do(useCases.eraseClient, world.as("maren"), {
        clientId,
        name: "Hugo Lindgren",
        reason: "Asked for it",
      }),
    );
    await heardErased(world.app);
    expect(await database.isOther()).toBe(false);
    expect((await walkJournal(world.app)).broken).toBeUndefined();
    expect(warned).toEqual([]);
    await world.close();
    const open = await openPostgres(owner, (message) => warned.push(message));
    await open.close();
    expect(warned.join()).toContain("DATABASE_OWNER_URL");
    await admin.end();
  });
});

import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { createKeyWrap, createSealer, parseKeyRing } from "../../src/adapters/encryption";
import { openPglite } from "../../src/db/client.pglite";
import { repositories } from "../../src/db/repositories";
import {
  createApplication,
  heardErased,
  lookAfterTables,
  resealKeys,
  run,
  useCases,
  walkJournal,
} from "../../src/server";
import { instant, instantMs, type Id, type Instant } from "../../src/core/shared";
import { keys, kinds, World } from "../support/world";

/** Every value of every sealed column there is, and where it lies. */
async function sealedRows({ app }: World): Promise<{ place: string; bytes: Uint8Array }[]> {
  const { db } = app.database;
  const columns = (await db.execute(
    sql`select table_name, column_name from information_schema.columns where table_schema = 'public' and data_type = 'bytea'`,
  )) as unknown as { rows: { table_name: string; column_name: string }[] };
  const found: { place: string; bytes: Uint8Array }[] = [];
  for (const { table_name: table, column_name: column } of columns.rows) {
    if (table === "client_key" || table === "installation" || table === "staff_passkey") continue;
    const { rows } = (await db.execute(
      sql.raw(`select "${column}" as bytes from "${table}" where octet_length("${column}") > 0`),
    )) as unknown as { rows: { bytes: Uint8Array }[] };
    found.push(...rows.map(({ bytes }) => ({ place: `${table}.${column}`, bytes: new Uint8Array(bytes) })));
  }
  return found;
}
/** What is the practice's own, and not sealed with any client's key. */
const ofPractice = new Set([
  "mailing.wishes",
  "staff.totp_secret",
  "client_import_row.sealed",
  "client_erasure.reason",
  "seal_certificate.key",
  "staff_mark.mark",
]);

describe.each(kinds)("what is kept of clients, on %s", (kind) => {
  let world: World;
  let practiceId: Id<"Practice">;
  beforeAll(async () => {
    world = await World.open(kind);
    practiceId = (await world.app.practice())!.id;
  });
  afterAll(() => world.close());
  const maren = () => world.as("maren");
  const add = async (firstName: string, rest: object = {}): Promise<Id<"Client">> =>
    must(
      await world.do(useCases.addClient, maren(), {
        requestId: world.request(),
        firstName,
        lastName: "Quist",
        email: `${firstName.toLowerCase()}@mail.example`,
        anyway: true,
        ...rest,
      }),
    ).id;
  const erase = (clientId: Id<"Client">, name: string) =>
    world.do(useCases.eraseClient, maren(), { clientId, name, reason: "Asked for it in writing" });
  const sendTo = async (clientId: Id<"Client">) =>
    must(
      await world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        clientId,
        questionnaireIds: world.seeded.questionnaires,
        line: "See you soon",
      }),
    ).packetId;

  it("warns whoever answers for it, and nobody else, of what is wrong", async () => {
    const watch = {
      isForReal: true,
      backupsAreSet: true,
      newestBackup: () => world.time,
      free: () => 5e9,
      keyIsOpen: () => false,
    };
    const seen = async (more: object) =>
      must(
        await run(
          createApplication(world.app.database, { ...world.app.ports, watch: { ...watch, ...more } }, world.app.keys),
          useCases.safekeeping,
          maren(),
          {},
        ),
      ).warnings;
    expect(await seen({})).toEqual([]);
    expect(await seen({ backupsAreSet: false })).toEqual([{ kind: "no-backups" }]);
    const old = instant(instantMs(world.time) - 3 * 86_400_000);
    expect(await seen({ newestBackup: () => old })).toEqual([{ kind: "backup-late", days: 3 }]);
    expect(await seen({ free: () => 12_000_000, keyIsOpen: () => true })).toEqual([
      { kind: "disk-low", megabytes: 12 },
      { kind: "key-open" },
    ]);
    // The journal has rows from later than the clock says it is.
    const now = world.time;
    world.time = instant(instantMs(now) + 60 * 60_000);
    must(await world.do(useCases.saveRetention, maren(), {}));
    world.time = now;
    expect(await seen({})).toEqual([{ kind: "clock-back", minutes: 60 }]);
    expect(await world.do(useCases.safekeeping, world.as("pia"), {})).toMatchObject({
      error: { reason: "not-allowed" },
    });
  });

  it("is counted for the planner by the embedded database alone, and not on a disk that is nearly full", async () => {
    const { database, ports, keys: held } = world.app;
    const after = async (free: number): Promise<boolean> => {
      await lookAfterTables(
        createApplication(database, { ...ports, watch: { ...ports.watch, free: () => free } }, held),
      );
      const { rows } = (await database.db.execute(
        sql`select count(*)::int as many from pg_class where relname = 'client' and reltuples > 0`,
      )) as unknown as { rows: { many: number }[] };
      return rows[0]!.many > 0;
    };
    await database.db.execute(sql`update pg_class set reltuples = -1 where relname = 'client'`);
    expect(await after(12_000_000)).toBe(false);
    // A server does that by itself, when it finds time.
    expect(await after(Infinity)).toBe(kind === "pglite");
  });

  it("is sealed with their own key: with that of another client, or none, nothing of theirs opens", async () => {
    const [one, other] = [await add("Wrenna"), await add("Sorrel")];
    const packetId = await sendTo(one);
    await world.fill(packetId);
    const keyOf = async (id: string) =>
      (
        (await world.app.database.db.execute(sql`select key_id from client where id = ${id}`)) as unknown as {
          rows: { key_id: Id<"ClientKey"> }[];
        }
      ).rows[0]!.key_id;
    const used = new Map<string, number>();
    for (const { place, bytes } of await sealedRows(world)) {
      const whose = world.app.ports.sealer.clientKeyOf(bytes);
      // Letters to staff and files of the practice are the practice's.
      if (!ofPractice.has(place) && !/^(?:post_message|stored_file)\./.test(place)) expect(whose, place).toBeDefined();
      if (whose === (await keyOf(one))) used.set(place, (used.get(place) ?? 0) + 1);
      expect(place !== "answer.sealed" || whose !== (await keyOf(other))).toBe(true);
    }
    expect([...used.keys()].toSorted()).toEqual([
      "answer.sealed",
      "chart_entry.sealed",
      "client.identity",
      "packet.personal_line",
      "packet_part.gist",
      "post_message.sealed",
      "signature.evidence",
      "signature.statement",
    ]);
  });

  it("goes for good with reason and name: nothing opens, ledgers and journal stay whole, and nobody finds them", async () => {
    const id = await add("Linnet", { birthDate: "1990-03-04" });
    must(
      await world.do(useCases.addRelation, maren(), {
        requestId: world.request(),
        clientId: id,
        firstName: "Teasel",
        lastName: "Quist",
        kind: "partner",
        email: "teasel@mail.example",
      }),
    );
    const packetId = await sendTo(id);
    await world.fill(packetId);
    const open = await sendTo(id);
    const client = await world.enter(open);
    const { noteId } = must(await world.do(useCases.beginNote, maren(), { packetId, requestId: world.request() }));
    const view = must(await world.do(useCases.eraseView, maren(), { clientId: id }));
    expect(view).toMatchObject({ name: "Linnet Quist", counts: { packets: 2, notes: 1 }, holds: [] });
    expect(view.counts.answers).toBeGreaterThan(10);
    // Not by the office, not with another name, not while there is a hold.
    for (const who of ["pia", "tobias"] as const)
      expect(
        await world.do(useCases.eraseClient, world.as(who), { clientId: id, name: "Linnet Quist", reason: "because" }),
      ).toMatchObject({ error: { reason: "not-allowed" } });
    expect(await erase(id, "Linnet")).toMatchObject({ error: { reason: "other-name" } });
    const holdId = world.request();
    for (let press = 0; press < 2; press++)
      must(await world.do(useCases.holdClient, maren(), { clientId: id, requestId: holdId, reason: "A complaint" }));
    expect(must(await world.do(useCases.eraseView, maren(), { clientId: id })).holds).toMatchObject([
      { reason: "A complaint" },
    ]);
    expect(await erase(id, "Linnet Quist")).toMatchObject({ error: { reason: "held" } });
    must(await world.do(useCases.endHold, maren(), { holdId }));
    const before = await sealedRows(world);
    const [key] = (
      (await world.app.database.db.execute(sql`select key_id from client where id = ${id}`)) as unknown as {
        rows: { key_id: Id<"ClientKey"> }[];
      }
    ).rows;

    must(await erase(id, " linnet  QUIST ".replace("  ", " ")));
    must(await erase(id, "Linnet Quist"));

    const theirs = (await sealedRows(world)).filter(
      ({ bytes }) => world.app.ports.sealer.clientKeyOf(bytes) === key!.key_id,
    );
    // What is left is in ledgers, and no key for it is left.
    expect([...new Set(theirs.map(({ place }) => place))].toSorted()).toEqual([
      "chart_entry.sealed",
      "client_hold.reason",
      "signature.evidence",
      "signature.statement",
    ]);
    await world.repo.clientKeys.know([key!.key_id]);
    expect(() => world.app.ports.sealer.open("anything", theirs[0]!.bytes)).toThrow(/not known, or was destroyed/);
    expect(before.length).toBeGreaterThan(theirs.length);
    expect(await walkJournal(world.app)).toMatchObject({ broken: undefined });
    // Nobody finds, opens or writes anything of theirs.
    for (const useCase of [useCases.chartView, useCases.reachView, useCases.eraseView, useCases.person])
      expect(await world.do(useCase as typeof useCases.chartView, maren(), { clientId: id })).toMatchObject({
        error: { reason: "not-found" },
      });
    for (const useCase of [useCases.packetJourney, useCases.returnView, useCases.reconcileView])
      expect(await world.do(useCase as typeof useCases.packetJourney, maren(), { packetId })).toMatchObject({
        error: { reason: "not-found" },
      });
    expect(await world.do(useCases.noteView, maren(), { noteId })).toMatchObject({ error: { reason: "not-found" } });
    expect(must(await world.do(useCases.people, maren(), { sought: "linnet" })).total).toBe(0);
    expect(
      await world.do(useCases.saveAnswers, client, {
        partId: world.request(),
        changes: [{ kind: "values", key: "x", values: [] }],
      }),
    ).toMatchObject({ ok: false });
    expect(await world.do(useCases.openLink, world.stranger, { token: "gone" })).toMatchObject({ ok: false });
    must(await world.do(useCases.returns, maren(), {}));
    must(await world.do(useCases.postRoom, maren(), {}));
    const erased = must(await world.do(useCases.retention, maren(), {})).erased;
    expect(erased[0]).toMatchObject({ reason: "Asked for it in writing" });
    expect(await world.journal(`client:${id}`)).toEqual(
      expect.arrayContaining(["client.erase", "client.erase-repeated", "client.hold", "client.hold-repeated"]),
    );
  });

  it("goes with the records that were made one with it, and not with one that is its own again", async () => {
    const [kept, gone] = [await add("Fenn"), await add("Fenna")];
    const packetId = await sendTo(gone);
    const merge = async () => {
      const { seen, lines } = must(await world.do(useCases.mergePreview, maren(), { keptId: kept, goneId: gone }));
      const requestId = world.request();
      must(
        await world.do(useCases.mergeClients, maren(), {
          requestId,
          keptId: kept,
          goneId: gone,
          seen,
          decided: Object.fromEntries(lines.map(({ id }) => [id, "keep"])),
        }),
      );
      return requestId;
    };
    const mergeId = await merge();
    // Written while they were one, in a packet of the other's: it goes with that one's key.
    await world.fill(packetId);
    must(await world.do(useCases.undoMerge, maren(), { mergeId }));
    must(await erase(kept, "Fenn Quist"));
    expect(must(await world.do(useCases.returnView, maren(), { packetId })).clientName).toBe("Fenna Quist");
    const third = await add("Fennel");
    const { seen, lines } = must(await world.do(useCases.mergePreview, maren(), { keptId: third, goneId: gone }));
    must(
      await world.do(useCases.mergeClients, maren(), {
        requestId: world.request(),
        keptId: third,
        goneId: gone,
        seen,
        decided: Object.fromEntries(lines.map(({ id }) => [id, "keep"])),
      }),
    );
    expect(await erase(gone, "Fenna Quist")).toMatchObject({ error: { reason: "not-found" } });
    must(await erase(third, "Fennel Quist"));
    expect(await world.do(useCases.returnView, maren(), { packetId })).toMatchObject({
      error: { reason: "not-found" },
    });
  });

  it("is due by the practice's rules, and goes when somebody says so", async () => {
    const id = await add("Oldham");
    const young = await add("Younger", { birthDate: "2015-05-05" });
    const due = async () => must(await world.do(useCases.retention, maren(), {}));
    expect(await due()).toMatchObject({ rules: {}, records: 0, letters: 0, unreturned: 0 });
    must(
      await world.do(useCases.saveRetention, maren(), {
        record: "8",
        minorsUntil: "25",
        letters: "24",
        unreturned: "",
      }),
    );
    expect((await due()).rules).toEqual({ record: 8, minorsUntil: 25, letters: 24 });
    expect((await due()).records).toBe(0);
    const now = world.time;
    world.time = instant(instantMs(now) + 8.1 * 365.25 * 86_400_000) as Instant;
    const later = await due();
    expect(later.due.map(({ id: one }) => one)).toContain(id);
    expect(later.due.map(({ id: one }) => one)).not.toContain(young);
    expect(later.letters).toBeGreaterThan(0);
    must(await world.do(useCases.holdClient, maren(), { clientId: id, requestId: world.request(), reason: "A claim" }));
    expect((await due()).due.map(({ id: one }) => one)).not.toContain(id);
    expect(must(await world.do(useCases.clearDue, maren(), { kind: "letters" })).gone).toBe(later.letters);
    expect((await due()).letters).toBe(0);
    // Without a rule nothing goes.
    expect(must(await world.do(useCases.clearDue, maren(), { kind: "unreturned" })).gone).toBe(0);
    must(await world.do(useCases.saveRetention, maren(), { unreturned: "1" }));
    const { unreturned } = await due();
    expect(must(await world.do(useCases.clearDue, maren(), { kind: "unreturned" })).gone).toBe(unreturned);
    world.time = now;
    expect(await walkJournal(world.app)).toMatchObject({ broken: undefined });
  });

  it("opens with a new installation key alone, once only the small keys were sealed anew", async () => {
    const ringText = `new:${Buffer.alloc(32, 5).toString("base64")}`;
    const old = `test:${Buffer.alloc(32, 9).toString("base64")}`;
    const withRing = (text: string) => {
      const wrap = createKeyWrap(parseKeyRing(text));
      return createApplication(
        world.app.database,
        { ...world.app.ports, sealer: createSealer(wrap, keys.secrets) },
        { wrap, secrets: keys.secrets },
      );
    };
    const before = await sealedRows(world);
    const told: number[] = [];
    const resealed = await resealKeys(withRing(`${ringText},${old}`), (done) => told.push(done));
    expect(resealed).toBeGreaterThan(10);
    expect(told.at(-1)).toBe(resealed);
    expect(await resealKeys(withRing(`${ringText},${old}`))).toBe(0);
    expect(await sealedRows(world)).toEqual(before);
    const alone = withRing(ringText);
    const { clients } = await repositories(world.app.database.db, alone.ports.sealer).clients.changedSince(
      practiceId,
      undefined,
    );
    expect(clients.map(({ firstName }) => firstName)).toContain("Ines");
    const without = withRing(old);
    await expect(
      repositories(world.app.database.db, without.ports.sealer).clients.changedSince(practiceId, undefined),
    ).rejects.toThrow(/key "new", which is not in the key ring/);
  });
});

it("a destroyed key lies in no file of the database's folder, the write-ahead log excepted, nor a word of theirs", async () => {
  const folder = mkdtempSync(join(tmpdir(), "kl-erase-"));
  const world = await World.over(await openPglite(folder, () => undefined));
  const { db } = world.app.database;
  const holding = (bytes: Buffer): string[] =>
    readdirSync(join(folder, "pg"), { recursive: true, encoding: "utf8" }).filter((name) => {
      const path = join(folder, "pg", name);
      return !name.startsWith("pg_wal") && statSync(path).isFile() && readFileSync(path).includes(bytes);
    });
  const id = must(
    await world.do(useCases.addClient, world.as("maren"), {
      requestId: world.request(),
      firstName: "Quillon",
      lastName: "Marsh",
      email: "quillon.marsh@mail.example",
      anyway: true,
    }),
  ).id;
  const sealed = (
    (await db.execute(
      sql`select k.sealed from client_key k join client c on c.key_id = k.id where c.id = ${id}`,
    )) as unknown as { rows: { sealed: Uint8Array }[] }
  ).rows[0]!.sealed;
  await db.execute(sql`checkpoint`);
  // The search finds what is there.
  expect(holding(Buffer.from(sealed))).not.toEqual([]);
  // Counted for the planner meanwhile, which keeps values of most columns elsewhere.
  await db.execute(sql`analyze`);
  must(
    await world.do(useCases.eraseClient, world.as("maren"), { clientId: id, name: "Quillon Marsh", reason: "Asked" }),
  );
  await heardErased(world.app);
  await db.execute(sql`checkpoint`);
  expect(holding(Buffer.from(sealed))).toEqual([]);
  for (const word of ["Quillon", "quillon.marsh"]) expect(holding(Buffer.from(word))).toEqual([]);
  expect(await walkJournal(world.app)).toMatchObject({ broken: undefined });
  await world.close();
  rmSync(folder, { recursive: true, force: true });
});

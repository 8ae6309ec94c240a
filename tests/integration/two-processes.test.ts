import { spawn, type ChildProcess } from "node:child_process";
import { sql } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { smtpPost } from "../../src/adapters/smtp";
import type { Id } from "../../src/core/shared";
import { lookAfterPost } from "../../src/jobs/letters";
import { createApplication, recoverPost, runMailings, useCases } from "../../src/server";
import { MailServer } from "../support/mail-server";
import { serverUrl, start, World } from "../support/world";

describe.runIf(serverUrl !== undefined)("two processes on one PostgreSQL", () => {
  let world: World;
  let url: string;
  let mail: MailServer | undefined;
  const others: ChildProcess[] = [];
  beforeAll(async () => {
    world = await World.open("postgres");
    const { rows } = (await world.app.database.db.execute(sql`select current_database() as name`)) as unknown as {
      rows: { name: string }[];
    };
    url = serverUrl!.replace(/\/[^/]*$/, `/${rows[0]!.name}`);
  });
  afterEach(async () => {
    for (const other of others.splice(0)) other.kill("SIGKILL");
    await mail?.close();
    mail = undefined;
  });
  afterAll(() => world.close());

  /** Another process, and what it said so far; `until` waits for a line, `over` for its end. */
  function another(what: string, id = "", more: Record<string, string> = {}) {
    const child = spawn(process.execPath, ["--import", "tsx", "tests/support/other-process.ts", what, id], {
      env: {
        ...process.env,
        DATABASE_URL: url,
        KIND_LEDGER_KEY: `test:${Buffer.alloc(32, 9).toString("base64")}`,
        KIND_LEDGER_NOW: start,
        ...more,
      },
      stdio: ["ignore", "pipe", "inherit"],
    });
    others.push(child);
    let said = "";
    child.stdout.on("data", (d: Buffer) => {
      said += d.toString();
    });
    const over = new Promise<number | null>((resolve) => child.once("exit", (code) => resolve(code)));
    return {
      until: (words: string) => expect.poll(() => said, { timeout: 60_000 }).toContain(words),
      kill: (signal: NodeJS.Signals) => {
        child.kill(signal);
        return over;
      },
    };
  }
  let made = 0;
  async function startMailing(people: number): Promise<Id<"Mailing">> {
    const clientIds: string[] = [];
    for (let count = 0; count < people; count++) {
      const email = `many.${++made}@mail.example`;
      const given = { requestId: world.request(), firstName: `Many ${made}`, email, anyway: true };
      clientIds.push(must(await world.do(useCases.addClient, world.as("pia"), given)).id);
    }
    const asked = { requestId: world.request(), clientIds, questionnaireIds: [world.seeded.questionnaires[0]!] };
    return must(await world.do(useCases.startMailing, world.as("pia"), asked)).id;
  }
  const peopleOf = (id: Id<"Mailing">) => world.repo.mailings.people(id);
  const viewOf = async (id: Id<"Mailing">) =>
    must(await world.do(useCases.mailingView, world.as("pia"), { mailingId: id }));
  const lettersTo = async (id: Id<"Mailing">) => {
    const packets = new Set((await peopleOf(id)).map((p) => p.packetId));
    return (await world.repo.outbox.latest((await world.app.practice())!.id, 2000)).filter((m) =>
      packets.has(m.packetId),
    );
  };

  it("what a killed one left of a mailing is written by the other, without a start, and nobody twice", async () => {
    const id = await startMailing(60);
    const other = another("write-to-many");
    await expect
      .poll(async () => (await peopleOf(id)).filter((p) => p.state === "sent").length, { timeout: 60_000, interval: 5 })
      .toBeGreaterThan(3);
    await other.kill("SIGKILL");
    const before = (await peopleOf(id)).filter((p) => p.state === "sent").length;
    expect(before).toBeLessThan(60);
    // What the runner does every few seconds; a row that the killed one held is free once its connection is gone.
    await expect
      .poll(async () => (await runMailings(world.app), (await viewOf(id)).over), { timeout: 60_000 })
      .toBe(true);
    const letters = await lettersTo(id);
    expect((await peopleOf(id)).every((p) => p.state === "sent")).toBe(true);
    expect([letters.length, new Set(letters.map((m) => m.to)).size]).toEqual([60, 60]);
  });
  it("a mailing whose last person another one holds is not over, and leaves nobody out when that one ends", async () => {
    const id = await startMailing(4);
    const last = (await peopleOf(id)).at(-1)!;
    const other = another("hold-a-person", last.id);
    await other.until("held");
    await runMailings(world.app);
    expect((await peopleOf(id)).map((p) => p.state)).toEqual(["sent", "sent", "sent", "waiting"]);
    expect((await viewOf(id)).over).toBe(false);
    await other.kill("SIGKILL");
    await expect
      .poll(async () => (await runMailings(world.app), (await viewOf(id)).over), { timeout: 60_000 })
      .toBe(true);
    expect((await peopleOf(id)).map((p) => p.state)).toEqual(["sent", "sent", "sent", "sent"]);
  });

  /** A letter that another process is handing over to a mail server which takes its time until `go`. */
  async function underWay() {
    let go: () => void = () => undefined;
    const gone = new Promise<void>((resolve) => {
      go = resolve;
    });
    mail = new MailServer();
    const smtp = await mail.open({ onMailFrom: (_, __, done) => void gone.then(() => done()) });
    const outside = createApplication(
      world.app.database,
      {
        ...world.app.ports,
        // Written here, handed over by the other one.
        post: { outside: true, deliver: () => new Promise(() => undefined) },
      },
      world.app.keys,
    );
    const packetId = await world.send("priya");
    const [letter] = await world.letters(packetId, "packet");
    await world.app.database.db.execute(
      sql`update post_message set state = 'queued', next_at = ${start}, attempts = 0, trouble = null where id = ${letter!.id}`,
    );
    const other = another("hand-over-slowly", "", { SMTP_URL: smtp });
    const now = async () => (await world.letters(packetId, "packet"))[0]!;
    await expect.poll(async () => (await now()).state, { timeout: 60_000 }).toBe("sending");
    return { outside, other, now, go, took: () => mail!.took.filter((m) => m.to.startsWith("priya")).length };
  }
  it("a letter that one hands over is its own while the other starts; killed, it is settled when its time is over", async () => {
    const { outside, other, now } = await underWay();
    await recoverPost(outside);
    expect((await now()).state).toBe("sending");
    await other.kill("SIGKILL");
    await lookAfterPost(outside);
    expect((await now()).state).toBe("sending");
    const before = world.time;
    world.wait(5);
    const nowhere = smtpPost("smtp://127.0.0.1:1");
    await lookAfterPost(createApplication(world.app.database, { ...world.app.ports, post: nowhere }, world.app.keys));
    expect(await now()).toMatchObject({ state: "unsure" });
    world.time = before;
  });
  it("told to end, it finishes the letter it is handing over first", async () => {
    const { other, now, go, took } = await underWay();
    const ended = other.kill("SIGTERM");
    // It waits for the mail server, not the other way round.
    expect(await Promise.race([ended, new Promise((resolve) => setTimeout(() => resolve("waits"), 500))])).toBe(
      "waits",
    );
    go();
    expect(await ended).toBe(0);
    expect(await now()).toMatchObject({ state: "delivered" });
    expect(took()).toBe(1);
  });
});

import { execFileSync, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { seedSigning, signingLink } from "../../demo/signing";
import { seedPeople, staffAs } from "../../demo/seed";
import { demoPassword } from "../../demo/scenario";
import { must } from "../../demo/walk";
import { runSeals } from "../../src/jobs";
import {
  openApplication,
  readEnvironment,
  run,
  staffActor,
  clientActor,
  useCases,
  type Application,
} from "../../src/server";
import { repositories } from "../../src/db/repositories";
import { textDigest } from "../../src/core/signing";
import { laterBy, type Id } from "../../src/core/shared";
import { readIn } from "../../src/usecases/signing/standing";
import type { ClientActor, StaffActor } from "../../src/usecases/kit";

// Each round a paper that everybody has signed is due, and the process that seals it is killed a little later.
const folder = mkdtempSync(join(tmpdir(), "kl-sealing-"));
const env = {
  ...process.env,
  KIND_LEDGER_DATA: folder,
  KIND_LEDGER_TRIAL: "yes",
  KIND_LEDGER_NOW: "2026-11-25T08:10:00Z",
  NODE_ENV: "production" as const,
};
const open = () => openApplication(readEnvironment(env));
const from = { address: "192.0.2.9", device: "test" };
const stranger = { kind: "stranger" as const, ...from };

/** Has everybody sign, and the talk recorded, so that the paper is due. */
async function signAll(app: Application, packetId: Id<"Packet">): Promise<Id<"Part">> {
  const repo = repositories(app.database.db, app.ports.sealer);
  const practice = (await app.practice())!;
  const token = (await signingLink(app, packetId)).slice("/p/".length);
  must(await run(app, useCases.sendCode, stranger, { token }));
  const letter = (await repo.outbox.ofPacket(packetId)).findLast((m) => m.purpose === "code")!;
  const code = /\b\d{6}\b/.exec(letter.body)![0];
  const { passToken } = must(await run(app, useCases.checkCode, stranger, { token, code }));
  const payer = (await clientActor(app, packetId, passToken, from)) as ClientActor;
  const [at] = must(await run(app, useCases.signerView, payer, {})).places;
  const { part } = (await repo.packets.part(practice.id, at!.partId))!;
  const questionnaire = await repo.versions.definition(part.versionId);
  const digest = textDigest(readIn(questionnaire, at!.answers, at!.place, "en"));
  const given = { partId: part.id, place: at!.place, name: "Greta Lund", digest, agreed: true };
  must(await run(app, useCases.signAsSigner, payer, given));
  const signed = must(
    await run(app, useCases.signIn, stranger, { email: "maren@fernhollow.example", password: demoPassword }),
  );
  const maren = (await staffActor(app, signed.token, from)) as StaffActor;
  const mark = { way: "typed", name: "Maren Holloway", password: demoPassword };
  must(await run(app, useCases.keepMark, maren, mark));
  must(await run(app, useCases.releaseMark, maren, { password: demoPassword }));
  const { waiting } = must(await run(app, useCases.forYouToSign, maren, {}));
  const own = waiting.find((w) => w.packetId === packetId)!;
  must(
    await run(app, useCases.signAsStaff, maren, { packetId, partId: part.id, place: own.place, digest: own.digest }),
  );
  const talk = { packetId, partId: part.id, on: "2026-11-25", how: "phone", present: "Both" };
  must(await run(app, useCases.recordTalk, maren, talk));
  return part.id;
}
/** Ends it after so many ms from when it began, in the hardest way there is. */
async function sealAndKill(after: number): Promise<void> {
  const child = spawn(process.execPath, ["--import", "tsx", "tests/support/seal-process.ts"], {
    env,
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise<void>((resolve) => {
    child.stdout.on("data", (text: Buffer) => {
      if (text.toString().includes("begin")) setTimeout(() => child.kill("SIGKILL"), after);
    });
    child.once("exit", () => resolve());
  });
}

describe("sealing", () => {
  let packets: Readonly<Record<string, Id<"Packet">>>;
  beforeAll(async () => {
    const app = await open();
    const { clients, staff } = await seedPeople(app);
    const who = { "Hugo Lindgren": clients["hugo"]!, "Priya Desrosiers": clients["priya"]! };
    packets = await seedSigning(app, who, staff["maren"]!);
    await app.close();
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it("killed at any point seals each paper exactly once afterwards, and the command says what it is", async () => {
    let app = await open();
    const parts = [await signAll(app, packets["Hugo Lindgren"]!), await signAll(app, packets["Priya Desrosiers"]!)];
    await app.close();
    for (const after of [0, 40, 120, 250, 400, 600, 900]) await sealAndKill(after);
    app = await open();
    await runSeals(app);
    const repo = repositories(app.database.db, app.ports.sealer);
    const practice = (await app.practice())!;
    expect(await repo.signers.toSeal(practice.id, 10)).toEqual([]);
    for (const partId of parts) {
      const papers = await repo.sealedPapers.ofPart(partId);
      expect(papers.map((p) => [p.number, p.revision])).toEqual([[1, 1]]);
      expect((await repo.files.byId(practice.id, papers[0]!.fileId))!.bytes.length).toBeGreaterThan(10_000);
    }
    // No file without its paper, and one line of the journal for each.
    // And everybody who signed was told, once.
    for (const packetId of Object.values(packets)) {
      const told = (await repo.outbox.ofPacket(packetId)).filter((m) => m.purpose === "signed").map((m) => m.toName);
      expect(told).toHaveLength(2);
      expect(new Set(told).size).toBe(2);
    }
    const rows = await repo.journal.latest(practice.id, 1_000);
    expect(rows.filter((r) => r.action === "paper.seal")).toHaveLength(2);
    const { rows: files } = (await app.database.db.execute(
      `select count(*)::int as many from stored_file where content_type = 'application/pdf' and part_id is not null`,
    )) as unknown as { rows: { many: number }[] };
    expect(files[0]!.many).toBe(2);
    const maren = staffAs(
      app,
      (await repo.staff.all(practice.id)).find((s) => s.name === "Maren Holloway")!.id,
      "maren",
    );
    const { bytes } = must(await run(app, useCases.openPaper, maren, { partId: parts[0] }));
    await app.close();

    const check = (name: string, given: Uint8Array) => {
      const path = join(folder, name);
      writeFileSync(path, given);
      return spawnSync("npm", ["run", "--silent", "kind", "--", "check", path], { env, encoding: "utf8" });
    };
    const good = check("good.pdf", bytes);
    expect([good.status, good.stdout]).toEqual([0, expect.stringContaining("Ours: Working together")]);
    for (const words of ["nothing in it was changed", "Signed by Greta Lund", "Consent: given"])
      expect(good.stdout).toContain(words);
    const bad = new Uint8Array(bytes);
    bad[2_000] = bad[2_000]! ^ 1;
    const changed = check("bad.pdf", bad);
    expect([changed.status, changed.stdout]).toEqual([1, expect.stringContaining("changed after it was sealed")]);
    expect(execFileSync("pdfsig", [join(folder, "good.pdf")], { encoding: "utf8" })).toContain("Signature is Valid");
  });

  it("goes by the order of signatures when the clock goes back, and lets an expired code and an old link in nowhere", async () => {
    const app = await open();
    const repo = repositories(app.database.db, app.ports.sealer);
    const now = app.ports.clock.now();
    const clock = { now: () => laterBy(now, -3 * 3_600_000) };
    const back: Application = { ...app, ports: { ...app.ports, clock } };
    const { clients } = await repo.clients.changedSince((await app.practice())!.id, undefined);
    const bram = clients.find((c) => c.firstName === "Bram")!;
    const staffId = (await repo.staff.all((await app.practice())!.id)).find((s) => s.name === "Maren Holloway")!.id;
    // Sent and signed by the client at ten past eight; the others sign with a clock three hours behind.
    const sent = await seedSigning(app, { "Bram Okafor": bram.id }, staffId);
    const partId = await signAll(back, sent["Bram Okafor"]!);
    expect(await runSeals(back)).toBe(1);
    expect(await repo.sealedPapers.ofPart(partId)).toHaveLength(1);
    // A code that is too old, and a link whose time is over.
    const told = (await repo.outbox.ofPacket(sent["Bram Okafor"]!)).findLast((m) => m.purpose === "signed")!;
    const token = /\/p\/([\w-]+)/.exec(told.body)![1]!;
    const at = (days: number): Application => ({
      ...app,
      ports: { ...app.ports, clock: { now: () => laterBy(now, days * 86_400_000) } },
    });
    must(await run(at(1), useCases.sendCode, stranger, { token }));
    const letter = (await repo.outbox.ofPacket(sent["Bram Okafor"]!)).findLast((m) => m.purpose === "code")!;
    const code = /\b\d{6}\b/.exec(letter.body)![0];
    expect(await run(at(1.01), useCases.checkCode, stranger, { token, code })).toMatchObject({
      error: { reason: "code-expired" },
    });
    expect(await run(at(31), useCases.openLink, stranger, { token })).toMatchObject({ error: { reason: "closed" } });
    await app.close();
  });
});

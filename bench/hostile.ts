import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { demoPassword } from "../demo/scenario";
import { seedPeople, staffAs } from "../demo/seed";
import { must } from "../demo/walk";
import { writeQuestionnaire } from "../src/core/fhir";
import { emptyQuestionnaire, newLine, type Item } from "../src/core/questionnaire";
import { repositories } from "../src/db/repositories";
import { openApplication, readEnvironment, run, useCases } from "../src/server";
import { hostileUploads } from "../tests/hostile/uploads";
import { enter, ms, printTable, quantile, startServer } from "./support";

// What an attack costs those who work meanwhile, each as a ratio to the same without it, in the same run.
const port = 3439;
const folder = mkdtempSync(join(tmpdir(), "kl-bench-hostile-"));
const app = await openApplication(readEnvironment({ KIND_LEDGER_DATA: folder, PORT: String(port) }));
const seeded = await seedPeople(app);
const maren = staffAs(app, seeded.staff["maren"]!, "maren");
const stranger = { kind: "stranger" as const, address: "203.0.113.7", device: "" };
const practice = (await app.practice())!;
const repo = repositories(app.database.db, app.ports.sealer);

const asked = writeQuestionnaire({
  ...emptyQuestionnaire("urn:bench:file", "A file", "intake", "x"),
  items: [{ ...newLine("file", "file"), text: "A file" } as Item],
});
const { id } = must(await run(app, useCases.importQuestionnaire, maren, { text: JSON.stringify(asked) }));
must(await run(app, useCases.putInUse, maren, { id }));
const sent = { requestId: app.ports.random.id(), visitId: seeded.visits["ines"], questionnaireIds: [id] };
const { packetId } = must(await run(app, useCases.sendPacket, maren, sent));
const pass = await enter(app, packetId);
const partId = (await repo.packets.parts(packetId))[0]!.id;
const signedIn = { email: "maren@fernhollow.example", password: demoPassword };
const { token } = must(await run(app, useCases.signIn, stranger, signedIn));

// 10,000 refused calls.
const size = async (): Promise<number> => {
  await app.database.db.execute(sql`checkpoint`);
  const { rows } = (await app.database.db.execute(
    sql`select pg_database_size(current_database()) as size`,
  )) as unknown as { rows: { size: number }[] };
  return Number(rows[0]!.size);
};
const before = await size();
for (let times = 0; times < 10_000; times++) await run(app, useCases.journalView, stranger, {});
const grown = (await size()) - before;

/**
 * Adds rows to the journal until there are so many; some at a time, as a head that moves on within one transaction
 * leaves a longer trail with every row.
 */
async function growJournal({ database }: typeof app, to: number): Promise<void> {
  const atOnce = 1_000;
  for (let { seq } = await repositories(database.db, app.ports.sealer).journal.head(practice.id); seq < to;) {
    const rows = Math.min(atOnce, to - seq);
    await database.db.execute(sql`
      select write_journal(${practice.id}::uuid, now(), '{"actor":"system","action":"answer.save","subject":"packet:x","address":"","detail":{},"mark":"x"}'::jsonb, '["{","","}"]'::jsonb)
      from generate_series(1, ${rows}::int)`);
    seq += rows;
  }
}
await growJournal(app, 1_000);
await app.close();

const cookie = { cookie: `kl_staff=${token}` };
const open = async (path: string): Promise<void> => {
  const response = await fetch(`http://localhost:${port}${path}`, { headers: cookie, redirect: "error" });
  if (!(await response.text()).includes("</html>")) throw new Error(`${path} did not come whole.`);
};
async function timed(path: string, goOn: (round: number) => boolean): Promise<number[]> {
  const took: number[] = [];
  for (let round = 0; goOn(round); round++) {
    const t = performance.now();
    await open(path);
    took.push(performance.now() - t);
  }
  return took.sort((a, b) => a - b);
}
const ended = async (server: Awaited<ReturnType<typeof startServer>>): Promise<void> => {
  const gone = new Promise((resolve) => server.once("exit", resolve));
  server.kill("SIGTERM");
  await gone;
};

let server = await startServer(port, { KIND_LEDGER_DATA: folder });
await timed("/day", (round) => round < 40);
const idle = await timed("/day", (round) => round < 200);
const pdf = Buffer.from(hostileUploads.find((one) => one.what.startsWith("a tree of pages"))!.make());
let left = 8;
const uploads = Array.from({ length: left }, () =>
  fetch(`http://localhost:${port}/f/${packetId}/files?part=${partId}&id=${crypto.randomUUID()}`, {
    method: "PUT",
    headers: {
      cookie: `kl_door=${pass}`,
      "sec-fetch-site": "same-origin",
      "x-file-name": "a.pdf",
      "x-answer-key": "file",
    },
    body: pdf,
  }).finally(() => left--),
);
const busy = await timed("/day", (round) => left > 0 && round < 200);
const stillThere = left;
await Promise.all(uploads);
const few = await timed("/office/journal", (round) => round < 60);
await ended(server);

const again = await openApplication(readEnvironment({ KIND_LEDGER_DATA: folder, PORT: String(port) }));
await growJournal(again, 200_000);
await again.close();
server = await startServer(port, { KIND_LEDGER_DATA: folder });
await timed("/day", (round) => round < 40);
await timed("/office/journal", (round) => round < 10);
const many = await timed("/office/journal", (round) => round < 60);
await ended(server);
rmSync(folder, { recursive: true, force: true });

const at = quantile;
printTable([
  ["under attack", "without", "with", "ratio", "goal"],
  [
    `Day sheet, p95, while 8 hostile uploads are checked (${busy.length} rounds, ${stillThere} left at the end)`,
    ms(at(idle, 0.95)),
    ms(at(busy, 0.95)),
    (at(busy, 0.95) / at(idle, 0.95)).toFixed(2),
    "below 3",
  ],
  [
    "Office's journal, p50, with 1,000 and 200,000 rows",
    ms(at(few, 0.5)),
    ms(at(many, 0.5)),
    (at(many, 0.5) / at(few, 0.5)).toFixed(2),
    "at most 1.5",
  ],
  ["10,000 refused calls, growth of the database", "", `${(grown / 1024).toFixed(0)} KB`, "", "below 1,024 KB"],
]);
process.exit(0);

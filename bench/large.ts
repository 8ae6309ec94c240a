import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoPassword } from "../demo/scenario";
import { seedPeople, staffAs } from "../demo/seed";
import { must } from "../demo/walk";
import { answer, packet, packetPart } from "../src/db/schema";
import { repositories } from "../src/db/repositories";
import { instant, instantMs, type Id } from "../src/core/shared";
import { openApplication, readEnvironment, run, useCases, type Application } from "../src/server";
import { keptSafe } from "./kept-safe";
import { ms, printTable, quantile, startServer } from "./support";

// What a practice of 10,000 clients waits for, each as a ratio to one of 100, by turns in the same run, on both
// databases. Needs a build; PostgreSQL by KL_BENCH_POSTGRES.
const now = "2026-11-25T08:10:00Z";
const sizes = { small: 100, large: 10_000 } as const;
/** Answers: of each packet. */
const perClient = { visits: 5, packets: 3, answers: 5 };
const toRead = 40;
const rounds = 40;
const base = mkdtempSync(join(tmpdir(), "kl-large-"));
const given = [
  "Ada",
  "Bram",
  "Cleo",
  "Dov",
  "Edda",
  "Finn",
  "Gro",
  "Hana",
  "Ivo",
  "Jun",
  "Kaya",
  "Lior",
  "Mina",
  "Nils",
];
const syllables = ["ba", "ke", "li", "mo", "nu", "ra", "se", "ti", "vo", "zu"];
/** Some thousands of names among 10,000 people, of which a few dozen begin alike: as surnames are. */
const surname = (index: number): string =>
  [...String((index * 7919) % 4000).padStart(4, "0")].map((digit) => syllables[Number(digit)]).join("");

interface Practice {
  readonly app: Application;
  readonly port: number;
  readonly env: Readonly<Record<string, string>>;
  readonly maren: ReturnType<typeof staffAs>;
}
const chunks = <T>(rows: readonly T[], size = 1000): T[][] =>
  Array.from({ length: Math.ceil(rows.length / size) }, (_, index) => rows.slice(index * size, (index + 1) * size));

/** As many days around today as are needed, each as full as the next; so today's sheet is the same for both. */
async function fill(env: Readonly<Record<string, string>>, clients: number, port: number): Promise<Practice> {
  const app = await openApplication(
    readEnvironment({ ...env, PORT: String(port), KIND_LEDGER_NOW: now, KIND_LEDGER_TRIAL: "yes" }),
  );
  const seeded = await seedPeople(app);
  const { db } = app.database;
  const { random, sealer } = app.ports;
  const repo = repositories(db, sealer);
  const practiceId = (await app.practice())!.id;
  const at = instant(now);
  const ids: Id<"Client">[] = [];
  const keyOf = new Map<string, Id<"ClientKey">>();
  for (let index = 0; index < clients; index++) {
    const id = random.id<"Client">();
    ids.push(id);
    const [firstName, lastName] = [given[index % given.length]!, surname(index)];
    await repo.clients.add({
      id,
      practiceId,
      language: "en",
      prefers: "email",
      createdAt: at,
      identity: {
        firstName,
        lastName,
        birthDate: `19${50 + (index % 50)}-0${1 + (index % 9)}-1${index % 10}`,
        email: `${firstName}.${lastName}@mail.example`.toLowerCase(),
        phone: `020 79${String(40 + (index % 60))} ${String(index).padStart(4, "0").slice(-4)}`,
      },
    });
  }
  const staff = ["maren", "tobias", "salma", "pia"].map((key) => seeded.staff[key]!);
  await db.execute("delete from visit where true");
  const [type] = await repo.visitTypes.all(practiceId);
  const slots = 16;
  const days = Math.ceil((clients * perClient.visits) / staff.length / slots);
  const first = instantMs(instant("2026-11-25T08:00:00Z")) - Math.floor(days / 2) * 86_400_000;
  const visits = Array.from({ length: clients * perClient.visits }, (_, index) => {
    const slot = Math.floor(index / staff.length);
    const startsAt = instant(first + Math.floor(slot / slots) * 86_400_000 + (slot % slots) * 1_800_000);
    return {
      id: random.id<"Visit">(),
      practiceId,
      clientId: ids[(index * 7919) % clients]!,
      staffId: staff[index % staff.length]!,
      visitTypeId: type!.id,
      startsAt,
      endsAt: instant(instantMs(startsAt) + 1_800_000),
    };
  });
  for (const some of chunks(visits)) await repo.visits.add(some);
  for (const id of ids) keyOf.set(id, await repo.clientKeys.of(id));
  const asked = (await repo.questionnaires.all(practiceId)).find((q) => q.inUse)!;
  const packets = Array.from({ length: clients * perClient.packets }, (_, index) => {
    const visit = visits[Math.floor((index * visits.length) / (clients * perClient.packets))]!;
    const returnedAt = instant(instantMs(visit.startsAt) - 86_400_000);
    const unread = index < toRead;
    return {
      id: random.id<"Packet">(),
      practiceId,
      requestId: random.id<"Packet">(),
      clientId: visit.clientId,
      keyId: keyOf.get(visit.clientId)!,
      visitId: visit.id,
      staffId: visit.staffId,
      state: unread ? ("returned" as const) : ("settled" as const),
      createdAt: returnedAt,
      sentAt: returnedAt,
      returnedAt,
      settledAt: unread ? null : returnedAt,
      expiresAt: instant("2027-06-01T00:00:00Z"),
    };
  });
  for (const some of chunks(packets)) {
    await db.insert(packet).values(some);
    const parts = some.map(({ id }) => ({
      id: random.id<"Part">(),
      packetId: id,
      versionId: asked.inUse!,
      position: 0,
    }));
    await db.insert(packetPart).values(parts);
    for (const { id } of parts) await repo.packets.keepGist(id, { scores: [], alerts: [] });
    const answers = parts.flatMap(({ id }, index) =>
      Array.from({ length: perClient.answers }, (_, slot) => ({
        partId: id,
        slot: `slot ${slot}`,
        sealed: sealer.seal(
          `answer:${id}:slot ${slot}`,
          { kind: "values", key: `q${slot}`, values: ["An answer of some words"] },
          some[index]!.keyId,
        ),
        revision: 1,
        blank: false,
        savedAt: at,
      })),
    );
    for (const few of chunks(answers)) await db.insert(answer).values(few);
  }
  await db.execute("analyze");
  return { app, port, env, maren: staffAs(app, seeded.staff["maren"]!, "maren") };
}

/** By turns, so that what else the machine does falls on both. */
async function byTurns(ask: (which: "small" | "large", round: number) => Promise<unknown>): Promise<{
  readonly small: number[];
  readonly large: number[];
}> {
  const took = { small: [] as number[], large: [] as number[] };
  for (let round = 0; round < rounds + 3; round++)
    for (const which of ["small", "large"] as const) {
      const began = performance.now();
      await ask(which, round);
      // The first ones fill caches and compile.
      if (round >= 3) took[which].push(performance.now() - began);
    }
  took.small.sort((a, b) => a - b);
  took.large.sort((a, b) => a - b);
  return took;
}

async function compare(kind: "PGlite" | "PostgreSQL", envOf: (size: string) => Readonly<Record<string, string>>) {
  if (process.argv[2] === "kept") {
    const { app, env } = await fill(envOf("large"), sizes.large, 3442);
    await app.close();
    return keptSafe(kind, env, join(base, `kept-${kind}`));
  }
  const both = {
    small: await fill(envOf("small"), sizes.small, 3441),
    large: await fill(envOf("large"), sizes.large, 3442),
  };
  const rows: string[][] = [];
  const line = (what: string, { small, large }: { small: number[]; large: number[] }, goal: string): void => {
    const [less, more] = [quantile(small, 0.5), quantile(large, 0.5)];
    rows.push([`${what}, ${kind}`, ms(more), `${ms(less)} with 100 clients`, (more / less).toFixed(2), goal]);
  };
  const [some, other] = [surname(17), surname(61)];
  const typed = [
    some,
    some.slice(0, 4),
    `${given[3]} ${other.slice(0, 5)}`,
    `${given[5]!.slice(0, 3)} ${some.slice(0, 4)}`,
    "020 7945 0123",
    "1971-03-11",
    // One letter wrong, and nobody.
    `${some.slice(0, 5)}x${some.slice(6)}`,
    "hrbuybali",
  ];
  const find = (which: "small" | "large", sought: string) =>
    run(both[which].app, useCases.people, both[which].maren, { sought, most: 6 }).then(must);
  const finding = await byTurns((which, round) => find(which, typed[round % typed.length]!));
  rows.push([
    `find a person among 10,000, p95, ${kind}`,
    ms(quantile(finding.large, 0.95)),
    `${ms(quantile(finding.small, 0.95))} with 100 clients`,
    (quantile(finding.large, 0.95) / quantile(finding.small, 0.95)).toFixed(2),
    "under 50 ms",
  ]);
  line("find a person, p50", finding, "at most 2");
  const beganAt = performance.now();
  const { seen, count } = must(await run(both.large.app, useCases.mailingPeople, both.large.maren, {})).writing;
  const clientIds = must(await run(both.large.app, useCases.mailingRecipients, both.large.maren, { seen }));
  const repo = repositories(both.large.app.database.db, both.large.app.ports.sealer);
  const { id: practiceId } = (await both.large.app.practice())!;
  const asked = (await repo.questionnaires.all(practiceId)).find((q) => q.inUse)!;
  const mailing = { requestId: both.large.app.ports.random.id(), clientIds, questionnaireIds: [asked.id] };
  must(await run(both.large.app, useCases.startMailing, both.large.maren, mailing));
  rows.push([`begin a mailing to ${count}, ${kind}`, ms(performance.now() - beganAt), "", "", "answers at once"]);
  must(await run(both.large.app, useCases.stopMailing, both.large.maren, { mailingId: mailing.requestId }));
  const signIn = { email: "maren@fernhollow.example", password: demoPassword };
  const tokens: Record<string, string> = {};
  for (const which of ["small", "large"] as const) {
    const stranger = { kind: "stranger" as const, address: "", device: "" };
    tokens[which] = must(await run(both[which].app, useCases.signIn, stranger, signIn)).token;
    await both[which].app.close();
  }
  const servers = [
    await startServer(both.small.port, { ...both.small.env, KIND_LEDGER_NOW: now, KIND_LEDGER_TRIAL: "yes" }),
    await startServer(both.large.port, { ...both.large.env, KIND_LEDGER_NOW: now, KIND_LEDGER_TRIAL: "yes" }),
  ];
  const page = async (which: "small" | "large", path: string): Promise<number> => {
    const answer = await fetch(`http://localhost:${both[which].port}${path}`, {
      headers: { cookie: `kl_staff=${tokens[which]}` },
      redirect: "manual",
    });
    if (answer.status !== 200) throw new Error(`${path} answered ${answer.status}.`);
    return (await answer.arrayBuffer()).byteLength;
  };
  for (const path of ["/people", "/day", "/returns", "/send/many", "/week"]) {
    const bytes = await page("large", path);
    line(`open ${path}`, await byTurns((which) => page(which, path)), "at most 2");
    rows.push([`HTML of ${path}, ${kind}`, `${(bytes / 1024).toFixed(0)} KiB`, "", "", "at most 150 KiB"]);
  }
  for (const server of servers) {
    const gone = new Promise((resolve) => server.once("exit", resolve));
    server.kill("SIGTERM");
    await gone;
  }
  rows.push(...(await keptSafe(kind, both.large.env, join(base, `kept-${kind}`))));
  return rows;
}

const rows = await compare("PGlite", (size) => ({ KIND_LEDGER_DATA: join(base, size) }));
const server = process.env["KL_BENCH_POSTGRES"];
if (server) {
  const { default: pg } = await import("pg");
  const admin = new pg.Client({ connectionString: server });
  await admin.connect();
  for (const size of ["small", "large"]) await admin.query(`create database kl_large_${size}`);
  await admin.end();
  rows.push(
    ...(await compare("PostgreSQL", (size) => ({
      KIND_LEDGER_DATA: join(base, `pg-${size}`),
      DATABASE_URL: server.replace(/\/[^/]*$/, `/kl_large_${size}`),
    }))),
  );
}
rmSync(base, { recursive: true, force: true });
printTable([["what", "measured", "baseline", "ratio", "goal"], ...rows]);
process.exit(0);

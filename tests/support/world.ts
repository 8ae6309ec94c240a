import pg from "pg";
import {
  clientActor,
  createApplication,
  createPorts,
  readEnvironment,
  run,
  useCases,
  type Access,
  type Application,
  type Keys,
  type UseCase,
} from "../../src/server";
import { createKeyWrap, makeSecrets, parseKeyRing } from "../../src/adapters/encryption";
import { keptErasuresInMemory } from "../../src/adapters/kept-erasures";
import { keptHeadsInMemory } from "../../src/adapters/kept-heads";
import { openPgliteInMemory } from "../../src/db/client.pglite";
import { openPostgres } from "../../src/db/client.postgres";
import type { Database } from "../../src/db/database";
import type { PostPurpose } from "../../src/core/messages";
import { installationRepository, repositories } from "../../src/db/repositories";
import { instant, instantMs, type Id, type Instant } from "../../src/core/shared";
import { seedPeople, staffAs, type Seeded } from "../../demo/seed";
import { digestAt, fillParts, must, walkThrough, type Filled } from "../../demo/walk";
import { consentYes, hugoIntake, phq9 } from "../../demo/answers";
import type { Actor, ClientActor } from "../../src/usecases/kit";
import type { staffList } from "../../demo/scenario";

export const serverUrl = process.env["KIND_LEDGER_TEST_POSTGRES"];
export type Kind = "pglite" | "postgres";
/**
 * Both databases. Without a server's address (`npm test` and `npm run integration` start one) the embedded one alone,
 * and loudly.
 */
export const kinds: readonly Kind[] = serverUrl === undefined ? ["pglite"] : ["pglite", "postgres"];
if (serverUrl === undefined)
  console.warn("KIND_LEDGER_TEST_POSTGRES is not set: only the embedded database is tested.");

export const start = instant("2026-11-25T08:10:00Z");
const from = { address: "192.0.2.7", device: "test" };

const ringText = `test:${Buffer.alloc(32, 9).toString("base64")}`;
/** The same in every world: each is a copy of one. */
export const keys: Keys = { wrap: createKeyWrap(parseKeyRing(ringText)), secrets: makeSecrets() };
const ports = () => createPorts(readEnvironment({ KIND_LEDGER_KEY: ringText, KIND_LEDGER_NOW: start }), keys);
/** So that another process on the same database opens it with the same ring. */
const begin = (database: Database): Promise<unknown> =>
  installationRepository(database.db).begin(keys.wrap.seal("installation:secrets", keys.secrets), start);
/** Knows no client's key from one use case to the next: what does not ask for the keys it needs fails. */
const forgetful = (app: Application): Application => {
  app.ports.sealer.clientKeys.forget();
  return app;
};

/**
 * Fernhollow is settled in once for each kind of database; each world is a copy of that one, as making one takes
 * seconds.
 */
async function askServer(query: string): Promise<void> {
  const admin = new pg.Client({ connectionString: serverUrl });
  await admin.connect();
  await admin.query(query);
  await admin.end();
}
function connect(name: string): Promise<Database> {
  if (serverUrl === undefined) throw new Error("There is no PostgreSQL server to test on.");
  return openPostgres(serverUrl.replace(/\/[^/]*$/, `/${name}`), () => undefined);
}
/** An installation that nobody has set up yet. */
export async function bareApplication(kind: Kind): Promise<Application> {
  const name = `kl_bare_${process.pid}_${Date.now().toString(36)}`;
  if (kind === "postgres") await askServer(`create database ${name}`);
  const database = kind === "postgres" ? await connect(name) : await openPgliteInMemory();
  const own = { ...ports(), keptHeads: keptHeadsInMemory(), keptErasures: keptErasuresInMemory() };
  await begin(database);
  return createApplication(database, own, keys);
}

interface Template {
  readonly seeded: Seeded;
  open(): Promise<Database>;
}
const templates: { [kind in Kind]?: Promise<Template> } = {};
const makers: Readonly<Record<Kind, () => Promise<Template>>> = {
  async pglite() {
    const made = await openPgliteInMemory();
    await begin(made);
    const seeded = await seedPeople(createApplication(made, ports(), keys));
    const image = await made.dump();
    await made.close();
    return { seeded, open: () => openPgliteInMemory(image) };
  },
  async postgres() {
    const first = `kl_${process.pid}_${Date.now().toString(36)}`;
    await askServer(`create database ${first}`);
    const made = await connect(first);
    await begin(made);
    const seeded = await seedPeople(createApplication(made, ports(), keys));
    await made.close();
    let copies = 0;
    return {
      seeded,
      open: async () => {
        const name = `${first}_${++copies}`;
        await askServer(`create database ${name} template ${first}`);
        return connect(name);
      },
    };
  },
};

/** Fernhollow on a fresh database, with a clock that the test moves. */
export class World {
  time: Instant = start;
  private constructor(
    readonly app: Application,
    readonly seeded: Seeded,
  ) {}

  static async open(kind: Kind): Promise<World> {
    const { seeded, open } = await (templates[kind] ??= makers[kind]());
    return World.with(await open(), seeded);
  }
  /** Settles Fernhollow in a database of the test's own. */
  static async over(database: Database): Promise<World> {
    await begin(database);
    return World.with(database, await seedPeople(createApplication(database, ports(), keys)));
  }
  private static with(database: Database, seeded: Seeded): World {
    const state = { time: start };
    const world = new World(
      createApplication(
        database,
        {
          ...ports(),
          keptHeads: keptHeadsInMemory(),
          keptErasures: keptErasuresInMemory(),
          clock: { now: () => state.time },
        },
        keys,
      ),
      seeded,
    );
    Object.defineProperty(world, "time", {
      get: () => state.time,
      set: (t: Instant) => {
        state.time = t;
      },
    });
    return world;
  }
  close = (): Promise<void> => this.app.database.close();
  get repo() {
    return repositories(this.app.database.db, this.app.ports.sealer);
  }
  wait(minutes: number): void {
    this.time = instant(instantMs(this.time) + minutes * 60_000);
  }
  as = (key: (typeof staffList)[number]["key"]): Actor => staffAs(this.app, this.seeded.staff[key]!, key);
  stranger: Actor = { kind: "stranger", ...from };
  request = (): string => this.app.ports.random.id();
  do<I, O, E, A extends Access>(useCase: UseCase<I, O, E, A>, actor: Actor, input: unknown) {
    return run(forgetful(this.app), useCase, actor, input);
  }

  /** Reads what stands at a place and signs just that, as the page does. */
  async sign(
    actor: ClientActor,
    given: { readonly partId: string; readonly name: string; readonly place?: string } & Record<string, unknown>,
  ) {
    const { partId, place = "" } = given;
    const view = await this.do(useCases.fillView, actor, {});
    if (!view.ok) return view;
    const digest = digestAt(view.value, partId, place);
    return this.do(useCases.signPart, actor, { agreed: true, digest, ...given });
  }

  /** Sends the whole packet for a client's visit today. */
  async send(client: string, requestId = this.request()): Promise<Id<"Packet">> {
    return must(
      await this.do(useCases.sendPacket, this.as("maren"), {
        requestId,
        visitId: this.seeded.visits[client],
        questionnaireIds: this.seeded.questionnaires,
      }),
    ).packetId;
  }
  async letters(packetId: string, purpose: PostPurpose) {
    return (await this.repo.outbox.latest((await this.app.practice())!.id, 100)).filter(
      (m) => m.packetId === packetId && m.purpose === purpose,
    );
  }
  tokenOf = async (packetId: string, purpose: PostPurpose = "packet"): Promise<string> =>
    /\/p\/([\w-]+)/.exec((await this.letters(packetId, purpose))[0]!.body)![1]!;
  codeOf = async (packetId: string): Promise<string> =>
    /\b\d{6}\b/.exec((await this.letters(packetId, "code"))[0]!.body)![0];
  /** Passes the door and gives the client behind it. */
  async enter(packetId: Id<"Packet">, purpose?: PostPurpose): Promise<Actor & { kind: "client" }> {
    const token = await this.tokenOf(packetId, purpose);
    must(await this.do(useCases.sendCode, this.stranger, { token }));
    const { passToken } = must(
      await this.do(useCases.checkCode, this.stranger, { token, code: await this.codeOf(packetId) }),
    );
    const actor = await clientActor(this.app, packetId, passToken, from);
    if (actor.kind !== "client") throw new Error("The door pass did not hold.");
    return actor;
  }
  async fill(
    packetId: Id<"Packet">,
    answers: Readonly<Record<string, Filled>> = {
      AdultIntake: hugoIntake,
      ConsentToCare: consentYes,
      PHQ9: phq9([1, 1, 1, 1, 1, 1, 1, 1, 1], "Somewhat difficult"),
    },
    finish = true,
  ): Promise<void> {
    await walkThrough(this.app, packetId, answers, "Hugo Lindgren", finish);
  }
  fillAs = (client: ClientActor, answers: Readonly<Record<string, Filled>>): Promise<void> =>
    fillParts(this.app, client, answers, undefined);
  async journal(subject?: string): Promise<string[]> {
    return (await this.repo.journal.latest((await this.app.practice())!.id, 1000, subject)).map((r) => r.action);
  }
}
export const text = (value: string) => [{ type: "string" as const, value }];

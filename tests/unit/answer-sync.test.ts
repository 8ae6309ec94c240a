import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { changeName, type KeptAnswer } from "../../src/core/packet";
import { noAnswers, type AnswerChange, type Questionnaire } from "../../src/core/questionnaire";
import { instant, type Id } from "../../src/core/shared";
import { AnswerSync, type AnswerTransport, type SentChange } from "../../src/ui/fill/answer-sync";
import type { Edit, KeptEdits } from "../../src/ui/fill/kept-edits";
import { Saver } from "../../src/ui/kit/saver";
import type { FillPart } from "../../src/usecases/filling";
import { fromRepository } from "../support/questionnaires";
import { settled, TestTimers } from "../support/timers";

const at = instant("2026-11-25T08:10:00Z");
const partId = "p1" as Id<"Part">;
const questionnaire: Questionnaire = { ...fromRepository("phq-9"), items: [] };
const keys = ["a", "b"] as const;
type Key = (typeof keys)[number];
const valuesOf = (text: string): AnswerChange & { kind: "values" } => ({
  kind: "values",
  key: "",
  values: [{ type: "string", value: text }],
});
const typed = (key: Key, text: string): AnswerChange => ({ ...valuesOf(text), key });
const textOf = (change: AnswerChange | undefined): string | undefined => {
  const value = change?.kind === "values" ? change.values[0] : undefined;
  return value?.type === "string" ? value.value : undefined;
};

/**
 * The practice's server, as `save_answers` keeps answers: a save on an older revision, by another device, comes back.
 */
class ModelServer {
  readonly answers = new Map<string, KeptAnswer & { readonly device: string }>();
  version = 0;
  save(device: string, changes: readonly SentChange[]) {
    const kept: Record<string, number> = {};
    const clashes: KeptAnswer[] = [];
    for (const { change, base } of changes) {
      const name = changeName(change);
      const there = this.answers.get(name);
      if (there && there.revision !== base && there.device !== device) {
        clashes.push(there);
        continue;
      }
      const revision = (there?.revision ?? 0) + 1;
      this.answers.set(name, { change, revision, by: device as Id<"Link">, device });
      kept[name] = revision;
      this.version++;
    }
    return { kind: "saved" as const, at, kept, clashes };
  }
  part(): FillPart {
    const list = [...this.answers];
    const values = list.flatMap(([, { change }]) => (change.kind === "values" ? [[change.key, change.values]] : []));
    const rows = list.flatMap(([, { change }]) => (change.kind === "rows" ? [[change.key, change.rows]] : []));
    return {
      id: partId,
      questionnaire,
      answers: { ...noAnswers, values: Object.fromEntries(values), rows: Object.fromEntries(rows) },
      signed: {},
      onPaper: [],
      prefilled: [],
      kept: Object.fromEntries(list.map(([name, { revision, by }]) => [name, { revision, by }])),
    };
  }
}

/**
 * What becomes of the next message: it arrives, is lost on the way, its reply is lost, it arrives twice, or it is put
 * off.
 */
const fates = ["arrives", "lost", "reply-lost", "twice", "refused"] as const;
type Fate = (typeof fates)[number];

/** A browser tab that may be closed and opened again; what it holds outlives it. */
class Device {
  sync!: AnswerSync;
  timers = new TestTimers();
  fate: Fate = "arrives";
  private held: readonly Edit[] = [];
  private round = 0;
  constructor(
    private readonly server: ModelServer,
    private readonly name: string,
  ) {}

  async open(): Promise<this> {
    this.timers.stop();
    this.timers = new TestTimers();
    // Every opening is a device of its own to the server, as every door pass is.
    const pass = `${this.name}${++this.round}`;
    const keep: KeptEdits = {
      write: (edits) => void (this.held = structuredClone(edits)),
      read: () => Promise.resolve(this.held),
    };
    const transport: AnswerTransport = {
      keep,
      save: async (_, changes) => {
        if (this.fate === "lost") throw new Error("no connection");
        if (this.fate === "refused") return { kind: "again" };
        const reply = this.server.save(pass, changes);
        if (this.fate === "reply-lost") throw new Error("no reply");
        return this.fate === "twice" ? this.server.save(pass, changes) : reply;
      },
      changesSince: async (version) => {
        if (this.fate === "lost" || this.fate === "reply-lost") throw new Error("no connection");
        const { version: now } = this.server;
        const kept = version === now ? [] : [...this.server.answers.values()];
        return { version: now, over: false, parts: [{ id: partId, kept }] };
      },
    };
    this.sync = new AnswerSync({ transport, parts: [this.server.part()], timers: this.timers });
    await this.sync.readKept();
    await this.timers.advance(0);
    return this;
  }
  get state() {
    return this.sync.saver.getSnapshot();
  }
  shown(key: Key): string | undefined {
    return textOf({ kind: "values", key, values: this.sync.getSnapshot().parts[0]!.answers.values[key] ?? [] });
  }
  /** Connected, and everything that waits was sent. */
  async settle(): Promise<void> {
    this.fate = "arrives";
    await this.timers.advance(10_000);
    await this.sync.look();
    await this.timers.advance(10_000);
  }
}

type Act =
  | { readonly do: "type" | "type-while-saving"; readonly device: 0 | 1; readonly key: Key }
  | { readonly do: "fate"; readonly device: 0 | 1; readonly fate: Fate }
  | { readonly do: "wait"; readonly device: 0 | 1; readonly ms: number }
  | { readonly do: "look" | "flush" | "reload"; readonly device: 0 | 1 }
  | { readonly do: "choose"; readonly device: 0 | 1; readonly which: "mine" | "theirs" };
const device = fc.constantFrom<0 | 1>(0, 1);
const act: fc.Arbitrary<Act> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({
      do: fc.constantFrom<"type" | "type-while-saving">("type", "type-while-saving"),
      device,
      key: fc.constantFrom(...keys),
    }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant("fate" as const), device, fate: fc.constantFrom(...fates) }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constant("wait" as const), device, ms: fc.constantFrom(0, 800, 4000) }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constantFrom("look", "flush", "reload"), device }) },
  fc.record({ do: fc.constant("choose" as const), device, which: fc.constantFrom("mine", "theirs") }),
);

describe("answers on their way", () => {
  /**
   * Every value typed is one of a kind, and knows which it replaced in its writer's sight. At the end each is on the
   * server, was replaced by somebody who saw it, or waits in sight for a choice: none was lost or covered unseen.
   */
  it("are never lost, covered unseen, or called saved when they are not, whatever is lost, doubled, closed or written at once", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(act, { minLength: 4, maxLength: 40 }), async (acts) => {
        const server = new ModelServer();
        const devices = [await new Device(server, "one").open(), await new Device(server, "two").open()] as const;
        const replaced = new Map<string, Set<string>>();
        const put = (text: string, ...before: readonly (string | undefined)[]): void => {
          const known = replaced.get(text) ?? new Set();
          for (const one of before) if (one !== undefined && one !== text) known.add(one);
          replaced.set(text, known);
        };
        let count = 0;
        for (const one of acts) {
          const own = devices[one.device];
          if (one.do === "type" || one.do === "type-while-saving") {
            const text = `${one.key}${++count}`;
            const saving = one.do === "type" ? undefined : own.sync.saver.flush();
            put(text, own.shown(one.key));
            own.sync.change(partId, typed(one.key, text));
            await saving;
            // The page holds what was typed once it was drawn.
            await own.timers.advance(0);
          } else if (one.do === "fate") own.fate = one.fate;
          else if (one.do === "wait") await own.timers.advance(one.ms);
          else if (one.do === "look") await own.sync.look();
          else if (one.do === "flush") await Promise.all([own.sync.saver.flush(), own.timers.advance(0)]);
          else if (one.do === "reload") await own.open();
          else if (one.do === "choose") {
            const [clash] = own.sync.getSnapshot().clashes;
            if (!clash) continue;
            const [mine, theirs] = [own.shown(clash.key as Key), textOf(clash.theirs.change)];
            if (one.which === "mine") put(mine!, theirs);
            else put(theirs!, mine);
            own.sync.choose(clash, one.which);
            await own.timers.advance(0);
          }
          for (const { sync, state } of devices) {
            if (state !== "saved") continue;
            // Called saved: what is in sight is, or was, on the server; of two, both are in sight.
            for (const [key, values] of Object.entries(sync.getSnapshot().parts[0]!.answers.values)) {
              if (sync.getSnapshot().clashes.some((clash) => clash.key === key)) continue;
              const text = textOf({ kind: "values", key, values })!;
              expect([...seen(server, replaced, key as Key)], `${text} is called saved`).toContain(text);
            }
          }
        }
        for (const one of devices) await one.settle();
        for (const one of devices) await one.settle();
        for (const key of keys) {
          const there = [textOf(server.answers.get(`values ${key}`)?.change)];
          for (const { sync } of devices)
            for (const clash of sync.getSnapshot().clashes)
              if (clash.key === key) there.push(shownIn(sync, key), textOf(clash.theirs.change));
          const safe = closure(replaced, there);
          const lost = [...replaced.keys()].filter((text) => text.startsWith(key) && !safe.has(text));
          expect(lost).toEqual([]);
          for (const { sync, state } of devices) {
            expect(state).toBe("saved");
            if (!sync.getSnapshot().clashes.some((clash) => clash.key === key))
              expect(shownIn(sync, key)).toBe(textOf(server.answers.get(`values ${key}`)?.change));
          }
        }
      }),
      {
        numRuns: 300,
        // Was once called "waiting" for ever: what waited went into a choice while it was being saved.
        examples: [
          [
            [
              { do: "type", device: 0, key: "b" },
              { do: "flush", device: 0 },
              { do: "type", device: 1, key: "b" },
              { do: "reload", device: 1 },
              { do: "type", device: 1, key: "b" },
              { do: "look", device: 0 },
            ],
          ],
        ],
      },
    );
  }, 240_000);

  it("have their rows put together: what either added is there, what either took away is gone", async () => {
    const rows = (...list: readonly string[]): AnswerChange => ({ kind: "rows", key: "g", rows: list });
    const server = new ModelServer();
    server.save("start", [{ change: rows("r1", "r2"), base: 0 }]);
    const one = await new Device(server, "one").open();
    const two = await new Device(server, "two").open();
    one.fate = "lost";
    one.sync.change(partId, rows("r1", "r2", "r3"));
    two.sync.change(partId, rows("r2", "r4"));
    for (const device of [two, one, two, one]) await device.settle();
    const there = server.answers.get("rows g")!.change;
    expect(there.kind === "rows" && [...there.rows].sort()).toEqual(["r2", "r3", "r4"]);
    expect(one.sync.getSnapshot().parts[0]!.answers.rows["g"]).toEqual(
      two.sync.getSnapshot().parts[0]!.answers.rows["g"],
    );
  });
});

/** A text and everything it replaced, and what that replaced. */
function closure(
  replaced: ReadonlyMap<string, ReadonlySet<string>>,
  from: readonly (string | undefined)[],
): Set<string> {
  const all = new Set<string>();
  const visit = (text: string | undefined): void => {
    if (text === undefined || all.has(text)) return;
    all.add(text);
    replaced.get(text)?.forEach(visit);
  };
  from.forEach(visit);
  return all;
}
const seen = (server: ModelServer, replaced: ReadonlyMap<string, ReadonlySet<string>>, key: Key): Set<string> =>
  closure(replaced, [textOf(server.answers.get(`values ${key}`)?.change)]);
const shownIn = (sync: AnswerSync, key: Key): string | undefined =>
  textOf({ kind: "values", key, values: sync.getSnapshot().parts[0]!.answers.values[key] ?? [] });

describe("what saves by itself", () => {
  it("keeps the newest of what was written, saves one after the other, tries again, and stops where it never works", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.oneof(
            fc.record({ do: fc.constant("write" as const) }),
            fc.record({ do: fc.constant("wait" as const), ms: fc.constantFrom(0, 100, 800, 3000) }),
            fc.record({ do: fc.constant("flush" as const) }),
            fc.record({ do: fc.constant("fate" as const), fate: fc.constantFrom("done", "again", "stop", "throw") }),
          ),
          { maxLength: 30 },
        ),
        async (acts) => {
          const timers = new TestTimers();
          let [written, dirty, kept, running] = [0, undefined as number | undefined, 0, 0];
          let fate = "done";
          const saver = new Saver<number>(
            {
              take: () => {
                const taken = dirty;
                dirty = undefined;
                return taken;
              },
              restore: (taken) => void (dirty ??= taken),
              save: async (taken) => {
                expect(++running).toBe(1);
                await settled();
                running--;
                if (fate === "throw") throw new Error("no connection");
                if (fate === "done") kept = taken;
                return fate as "done" | "again" | "stop";
              },
            },
            timers,
          );
          for (const one of acts) {
            if (one.do === "write") {
              dirty = ++written;
              saver.touch();
            } else if (one.do === "wait") await timers.advance(one.ms);
            else if (one.do === "fate") fate = one.fate;
            else expect(await saver.flush()).toBe(kept === written);
            if (saver.getSnapshot() === "saved" && saver.isIdle()) expect(kept).toBe(written);
          }
          fate = "done";
          if (!saver.isStopped()) await timers.advance(10_000);
          else expect(await saver.flush()).toBe(true);
          expect([kept, saver.getSnapshot()]).toEqual([written, "saved"]);
        },
      ),
      { numRuns: 200 },
    );
  }, 120_000);
  it("waits for a pause, and not for ever: who types on and on loses less than two seconds", async () => {
    const timers = new TestTimers();
    let [written, kept] = [0, 0];
    const saver = new Saver<number>(
      {
        take: () => written,
        restore: () => undefined,
        save: async (taken) => {
          kept = taken;
          return "done";
        },
      },
      timers,
    );
    // A key every 100 ms, for a minute: what was typed two seconds ago is kept, whenever the process is killed.
    for (let key = 1; key <= 600; key++) {
      written = key;
      saver.touch();
      await timers.advance(100);
      expect(written - kept).toBeLessThan(20);
    }
  });
});

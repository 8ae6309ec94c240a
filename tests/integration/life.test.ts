import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { consentYes, hugoIntake, phq9 } from "../../demo/answers";
import { must } from "../../demo/walk";
import { clientActor, createApplication, recoverPost, run, useCases, walkJournal } from "../../src/server";
import type { JournalAction } from "../../src/core/audit";
import { foldChart } from "../../src/core/chart";
import type { Id } from "../../src/core/shared";
import type { ClientActor } from "../../src/usecases/kit";
import { kinds, start, text, World } from "../support/world";

/**
 * A packet's life as a few plain facts. Random acts of the client, a stranger and the practice are played against both
 * the application and this model; what each act answers, and the state afterwards, must agree.
 */
interface Model {
  state: "sent" | "opened" | "under-way" | "returned" | "settled";
  complete: boolean;
  signed: boolean;
  wrong: number;
  locked: boolean;
  codeOut: boolean;
  inside: boolean;
}
type Act =
  "ask-code" | "wrong-code" | "right-code" | "fill" | "change" | "sign" | "return" | "reissue" | "post" | "reverse";
const acts: readonly Act[] = [
  "ask-code",
  "wrong-code",
  "right-code",
  "fill",
  "change",
  "sign",
  "return",
  "reissue",
  "post",
  "reverse",
];

class Play {
  model: Model = {
    state: "sent",
    complete: false,
    signed: false,
    wrong: 0,
    locked: false,
    codeOut: false,
    inside: false,
  };
  client: ClientActor | undefined;
  postingId: Id<"Posting"> | undefined;
  parts: Id<"Part">[] = [];
  constructor(
    readonly world: World,
    readonly packetId: Id<"Packet">,
  ) {}

  private ok = (r: { ok: boolean; error?: { reason: string } }): string => (r.ok ? "ok" : r.error!.reason);
  private get open(): boolean {
    return this.model.state !== "returned" && this.model.state !== "settled";
  }
  /**
   * What the door answers a stranger before it looks at a code: locked or not, it says no more than that it is closed.
   * What came back is a receipt behind the same door.
   */
  private get door(): string | undefined {
    return this.model.locked ? "closed" : undefined;
  }
  private save = (part: number, key: string, values: readonly unknown[]) =>
    this.world.do(useCases.saveAnswers, this.client!, {
      partId: this.parts[part],
      changes: [{ kind: "values", key, values }],
    });

  /** Plays one act; gives what the application answered and what the model says it should. */
  async play(act: Act): Promise<[got: string, expected: string]> {
    const { world, model, packetId } = this;
    const token = await world.tokenOf(packetId);
    switch (act) {
      case "ask-code": {
        world.wait(15);
        const got = this.ok(await world.do(useCases.sendCode, world.stranger, { token }));
        if (!this.door) model.codeOut = true;
        return [got, this.door ?? "ok"];
      }
      case "wrong-code": {
        const right = model.codeOut ? await world.codeOf(packetId) : "";
        const got = this.ok(
          await world.do(useCases.checkCode, world.stranger, { token, code: right === "000000" ? "000001" : "000000" }),
        );
        const expectedOf = () => {
          if (!model.codeOut) return "code-expired";
          if (model.wrong === 4) return "locked";
          return "wrong-code";
        };
        const expected = this.door ?? expectedOf();
        if (!this.door && model.codeOut && ++model.wrong === 5) {
          model.locked = true;
          model.codeOut = false;
        }
        return [got, expected];
      }
      case "right-code": {
        const code = model.codeOut ? await world.codeOf(packetId) : "123456";
        const result = await world.do(useCases.checkCode, world.stranger, { token, code });
        const expected = this.door ?? (model.codeOut ? "ok" : "code-expired");
        if (result.ok) {
          this.client = (await clientActor(world.app, packetId, result.value.passToken, {
            address: "",
            device: "",
          })) as ClientActor;
          Object.assign(model, {
            codeOut: false,
            wrong: 0,
            inside: true,
            state: model.state === "sent" ? "opened" : model.state,
          });
        }
        return [this.ok(result), expected];
      }
      case "fill":
      case "change": {
        if (!model.inside) return ["", ""];
        if (act === "change") {
          const got = this.ok(
            await this.save(1, "agree-contact", [
              { type: "coding", value: { system: "https://fernhollow.example/x", code: "x" } },
            ]),
          );
          const second = this.ok(await this.save(0, "occupation", text("Porter")));
          if (this.open) model.state = "under-way";
          return [`${got} ${second}`, this.open ? "refused ok" : "closed closed"];
        }
        if (!this.open) return ["", ""];
        await world.fillAs(this.client!, {
          AdultIntake: hugoIntake,
          ConsentToCare: consentYes,
          PHQ9: phq9([1, 0, 1, 0, 1, 0, 1, 0, 0], "Somewhat difficult"),
        });
        Object.assign(model, { complete: true, state: "under-way" });
        return ["ok", "ok"];
      }
      case "sign": {
        if (!model.inside) return ["", ""];
        const got = this.ok(await world.sign(this.client!, { partId: this.parts[1]!, name: "Hugo Lindgren" }));
        const expectedOfHere = () => {
          if (!this.open) return "closed";
          if (model.complete) return "ok";
          return "incomplete";
        };
        const expected = expectedOfHere();
        if (expected === "ok") model.signed = true;
        return [got, expected];
      }
      case "return": {
        if (!model.inside) return ["", ""];
        const got = this.ok(await world.do(useCases.returnPacket, this.client!, {}));
        const expectedOfHere = () => {
          if (!this.open) return "ok";
          if (model.complete && model.signed) return "ok";
          return "incomplete";
        };
        const expected = expectedOfHere();
        if (this.open && expected === "ok") model.state = "returned";
        return [got, expected];
      }
      case "reissue": {
        const got = this.ok(
          await world.do(useCases.reissueLink, world.as("pia"), { packetId, requestId: world.request() }),
        );
        if (!this.open) return [got, "closed"];
        Object.assign(model, { locked: false, wrong: 0, codeOut: false, inside: false });
        this.client = undefined;
        return [got, "ok"];
      }
      case "post": {
        const view = await world.do(useCases.reconcileView, world.as("maren"), { packetId });
        if (!view.ok) return [view.error.reason, this.open ? "not-found" : "ok"];
        const result = await world.do(useCases.postToChart, world.as("maren"), {
          packetId,
          requestId: world.request(),
          revision: view.value.revision,
          decisions: view.value.lines.map((l) => ({ line: l.id, choice: "take" })),
        });
        const expected = model.state === "settled" ? "already-posted" : "ok";
        if (result.ok) {
          this.postingId = result.value.postingId;
          model.state = "settled";
        }
        return [this.ok(result), expected];
      }
      case "reverse": {
        if (!this.postingId) return ["", ""];
        const got = this.ok(
          await world.do(useCases.reverse, world.as("maren"), {
            clientId: world.seeded.clients["hugo"],
            postingId: this.postingId,
            requestId: world.request(),
          }),
        );
        const expected = model.state === "settled" ? "ok" : "already-reversed";
        if (expected === "ok") model.state = "returned";
        return [got, expected];
      }
    }
  }
}

describe("a packet's life", () => {
  let world: World;
  beforeAll(async () => {
    world = await World.open("pglite");
  });
  afterAll(() => world.close());

  const playAll = async (list: readonly Act[]): Promise<void> => {
    const play = new Play(world, await world.send("hugo"));
    play.parts = (await world.repo.packets.parts(play.packetId)).map((p) => p.id);
    for (const act of list) {
      const [got, expected] = await play.play(act);
      expect(got, `${act} in ${list.join(" ")}`).toBe(expected);
      const stored = (await world.repo.packets.byId((await world.app.practice())!.id, play.packetId))!;
      expect([stored.state, stored.lockedAt !== null && play.model.state !== "returned"], `after ${act}`).toEqual([
        play.model.state,
        play.model.locked,
      ]);
    }
  };
  it("goes as the model says, whatever is done in whatever order", async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.constantFrom(...acts), { minLength: 5, maxLength: 14 }), playAll), {
      numRuns: 25,
      endOnFailure: true,
    });
  });
  it("goes all the way there, back and there again", () =>
    playAll([
      "ask-code",
      "wrong-code",
      "right-code",
      "change",
      "sign",
      "return",
      "fill",
      "return",
      "sign",
      "return",
      "return",
      "post",
      "post",
      "reverse",
      "reverse",
      "post",
      "reissue",
      "fill",
      "change",
    ]));
  it("stays locked until a fresh link", () =>
    playAll([
      "ask-code",
      "wrong-code",
      "wrong-code",
      "wrong-code",
      "wrong-code",
      "wrong-code",
      "right-code",
      "ask-code",
      "reissue",
      "ask-code",
      "right-code",
      "fill",
      "sign",
      "return",
    ]));

  it("posted and laid beside the chart again, everything is the same; reversed, the chart is what it was", async () => {
    const cosmo = world.seeded.clients["cosmo"]!;
    const chart = async () => foldChart(await world.repo.charts.entries(cosmo));
    const standing = async () =>
      Object.fromEntries(
        Object.entries((await chart()).fields).flatMap(([k, f]) => (f.current ? [[k, f.current.value]] : [])),
      );
    const before = await standing();
    const id = await world.send("cosmo");
    await world.fill(id);
    const view = () => world.do(useCases.reconcileView, world.as("maren"), { packetId: id }).then(must);
    const first = await view();
    const { postingId } = must(
      await world.do(useCases.postToChart, world.as("maren"), {
        packetId: id,
        requestId: world.request(),
        revision: first.revision,
        decisions: first.lines.map((l) => ({ line: l.id, choice: "take" })),
      }),
    );
    expect((await view()).lines.filter((l) => l.status !== "same")).toEqual([]);
    must(
      await world.do(useCases.reverse, world.as("maren"), { clientId: cosmo, postingId, requestId: world.request() }),
    );
    expect(await standing()).toEqual(before);
    expect((await view()).lines.map((l) => [l.id, l.status])).toEqual(first.lines.map((l) => [l.id, l.status]));
  });
});

describe.each(kinds)("many at once on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());

  it("the journal stays one unbroken chain", async () => {
    await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        i % 2 === 0
          ? world.do(useCases.returns, world.as("maren"), {})
          : world.do(useCases.returns, world.as("pia"), {}),
      ),
    );
    const practice = (await world.app.practice())!.id;
    const rows = await world.repo.journal.latest(practice, 1000);
    expect(new Set(rows.map((r) => r.seq)).size).toBe(rows.length);
    expect(rows.filter((r) => r.action === "returns.view")).toHaveLength(20);
    expect((await walkJournal(world.app)).broken).toBeUndefined();
  });
  it("the database hashes a journal line as we do, whatever is in it", async () => {
    const practiceId = (await world.app.practice())!.id;
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          actor: fc.string({ unit: "binary" }),
          action: fc.constantFrom("answer.save", '"prevHash":"', '"seq":-1', "\\") as fc.Arbitrary<JournalAction>,
          subject: fc.string({ unit: "grapheme" }),
          address: fc.string(),
          detail: fc.dictionary(fc.string({ minLength: 1 }), fc.oneof(fc.integer(), fc.boolean(), fc.string())),
        }),
        async (line) => {
          const storable = JSON.parse(
            JSON.stringify(line).replace(/\\u0000|\\ud[89a-f][0-9a-f]{2}/gi, ""),
          ) as typeof line;
          await world.repo.journal.write(practiceId, start, [storable]);
        },
      ),
      { numRuns: 60 },
    );
    expect((await walkJournal(world.app)).broken).toBeUndefined();
  });
  it("answers to different questions all stay, and to one question the last one does", async () => {
    const id = await world.send("priya");
    const client = await world.enter(id);
    const [intake] = await world.repo.packets.parts(id);
    const keys = ["first-name", "last-name", "address", "occupation", "support", "main-concern", "goals", "else"];
    await Promise.all(
      keys.map((key) =>
        world
          .do(useCases.saveAnswers, client, {
            partId: intake!.id,
            changes: [{ kind: "values", key, values: text(key) }],
          })
          .then(must),
      ),
    );
    const same = await world.do(useCases.saveAnswers, client, {
      partId: intake!.id,
      changes: ["a", "b", "c"].map((v) => ({ kind: "values", key: "goals", values: text(v) })),
    });
    expect(same.ok).toBe(true);
    const { values } = await world.repo.answers.ofPart(intake!.id);
    expect(Object.fromEntries(Object.entries(values).map(([k, v]) => [k, v[0]!.value]))).toEqual({
      ...Object.fromEntries(keys.map((k) => [k, k])),
      goals: "c",
    });
  });
  it("all of a save is kept or none of it", async () => {
    const id = await world.send("priya");
    const client = await world.enter(id);
    const [intake] = await world.repo.packets.parts(id);
    const result = await world.do(useCases.saveAnswers, client, {
      partId: intake!.id,
      changes: [
        { kind: "values", key: "first-name", values: text("kept?") },
        { kind: "values", key: "nobody", values: text("x") },
      ],
    });
    expect(result).toMatchObject({ error: { reason: "invalid" } });
    expect((await world.repo.answers.ofPart(intake!.id)).values).toEqual({});
  });
  it("pages hear at once that something came back, and not after they stopped listening", async () => {
    const heard: string[] = [];
    const stop = await world.app.database.listen("returns", (p) => {
      heard.push(p);
    });
    const id = await world.send("hugo");
    await world.fill(id);
    await expect.poll(() => heard.length).toBeGreaterThanOrEqual(2);
    await stop();
    const before = heard.length;
    world.wait(1);
    await world.fill(await world.send("hugo"));
    expect(heard).toHaveLength(before);
    expect(new Set(heard)).toEqual(new Set([(await world.app.practice())!.id]));
  });
  it("a letter that was written but not handed over when the process ended goes out at the next start, once", async () => {
    const dead = createApplication(
      world.app.database,
      {
        ...world.app.ports,
        post: { outside: false, deliver: () => Promise.reject(new Error("The process ended here.")) },
      },
      world.app.keys,
    );
    await expect(
      run(dead, useCases.sendPacket, world.as("maren"), {
        requestId: world.request(),
        visitId: world.seeded.visits["ines"],
        questionnaireIds: world.seeded.questionnaires,
      }),
    ).rejects.toThrow();
    const delivered: string[] = [];
    const next = createApplication(
      world.app.database,
      {
        ...world.app.ports,
        post: {
          outside: false,
          deliver: (m) => {
            delivered.push(m.to);
            return Promise.resolve({ outcome: "delivered" });
          },
        },
      },
      world.app.keys,
    );
    // On a server that others may be on too, whoever had it has it until their time is over.
    if (kind === "postgres") {
      expect(await recoverPost(next)).toBe(0);
      world.wait(5);
    }
    expect([await recoverPost(next), await recoverPost(next)]).toEqual([1, 0]);
    expect(delivered).toEqual(["ines.halvorsen@mail.example"]);
  });
});

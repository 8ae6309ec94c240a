import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { useCases } from "../../src/server";
import { identityOf, foldChart } from "../../src/core/chart";
import { instant, instantMs, laterBy, type Id } from "../../src/core/shared";
import { kinds, start, text, World } from "../support/world";

describe.each(kinds)("on %s", (kind) => {
  let world: World;
  let practiceId: Id<"Practice">;
  beforeAll(async () => {
    world = await World.open(kind);
    practiceId = (await world.app.practice())!.id;
  });
  afterAll(() => world.close());
  const line = async (client: string) =>
    must(await world.do(useCases.daySheet, world.as("pia"), {})).lines.find(
      (l) => l.clientId === world.seeded.clients[client],
    )!;

  describe("the day sheet", () => {
    it("holds the practice's day, from its first moment to its last, in time order", async () => {
      const sheet = must(await world.do(useCases.daySheet, world.as("pia"), {}));
      expect([sheet.day, sheet.today, sheet.lines.length]).toEqual(["2026-11-25", "2026-11-25", 9]);
      expect(sheet.lines.map((l) => l.startsAt)).toEqual(sheet.lines.map((l) => l.startsAt).sort());
      const visit = (at: string) => ({
        id: world.app.ports.random.id<"Visit">(),
        practiceId,
        clientId: world.seeded.clients["bram"]!,
        staffId: world.seeded.staff["tobias"]!,
        visitTypeId: undefined as never,
        startsAt: instant(at),
        endsAt: laterBy(instant(at), 1000),
      });
      const { rows } = (await world.app.database.db.execute("select id from visit_type limit 1")) as unknown as {
        rows: { id: Id<"VisitType"> }[];
      };
      // British Summer Time: 1 July in London begins at 23:00 UTC of 30 June.
      await world.repo.visits.add(
        ["2026-06-30T22:59:59Z", "2026-06-30T23:00:00Z", "2026-07-01T22:59:59Z", "2026-07-01T23:00:00Z"].map((at) => ({
          ...visit(at),
          visitTypeId: rows[0]!.id,
        })),
      );
      const summer = must(await world.do(useCases.daySheet, world.as("pia"), { day: "2026-07-01" }));
      expect(summer.lines.map((l) => l.startsAt)).toEqual(["2026-06-30T23:00:00.000Z", "2026-07-01T22:59:59.000Z"]);
    });
    it("refuses a day that is none", async () => {
      for (const day of ["2026-02-30", "tomorrow", "2026-1-1"])
        expect(await world.do(useCases.daySheet, world.as("pia"), { day })).toMatchObject({
          error: { reason: "invalid", fields: { day: "No such day." } },
        });
    });
    it("follows a packet from nothing to settled", async () => {
      expect((await line("ines")).readiness).toMatchObject({ words: "Nothing sent", next: "send" });
      const id = await world.send("ines");
      expect((await line("ines")).readiness.words).toBe("Sent, not opened");
      const client = await world.enter(id);
      expect((await line("ines")).readiness.words).toBe("Opened, not begun");
      const [intake] = await world.repo.packets.parts(id);
      must(
        await world.do(useCases.saveAnswers, client, {
          partId: intake!.id,
          changes: [
            { kind: "values", key: "first-name", values: text("Ines") },
            { kind: "values", key: "goals", values: text("Sleep") },
          ],
        }),
      );
      expect((await line("ines")).readiness.words).toBe("Under way, 2 answered");
      must(
        await world.do(useCases.saveAnswers, client, {
          partId: intake!.id,
          changes: [{ kind: "values", key: "goals", values: [] }],
        }),
      );
      expect((await line("ines")).readiness.words).toBe("Under way, 1 answered");
      world.wait(1);
      await world.fill(id);
      expect((await line("ines")).readiness).toMatchObject({ words: "Returned, read first", next: "read" });
      const view = must(await world.do(useCases.reconcileView, world.as("maren"), { packetId: id }));
      must(
        await world.do(useCases.postToChart, world.as("maren"), {
          packetId: id,
          requestId: world.request(),
          revision: view.revision,
          decisions: view.lines.map((l) => ({ line: l.id, choice: l.suggested ?? "keep" })),
        }),
      );
      expect((await line("ines")).readiness).toMatchObject({ words: "Settled", next: "none" });
      expect(
        must(await world.do(useCases.returns, world.as("maren"), {})).lines.map((r) => [r.clientName, r.state]),
      ).toEqual([["Ines Halvorsen", "settled"]]);
    });
    it("says when a link has expired, and offers a fresh one", async () => {
      await world.send("edda");
      const before = world.time;
      world.wait(15 * 24 * 60);
      const visits = await world.repo.visits.between(practiceId, start, laterBy(start, 86_400_000));
      const packets = await world.repo.packets.ofVisits(visits.map((v) => v.id));
      expect(packets.every((p) => instantMs(p.expiresAt) <= instantMs(world.time) || p.state === "settled")).toBe(true);
      const sheet = must(await world.do(useCases.daySheet, world.as("pia"), { day: "2026-11-25" }));
      expect(sheet.lines.find((l) => l.clientName === "Edda Marsh")!.readiness).toMatchObject({
        words: "Link expired",
        next: "reissue",
      });
      world.time = before;
    });
  });

  describe("what is sent", () => {
    it("tells before the click who gets it, how, and until when, without the whole address", async () => {
      const options = must(
        await world.do(useCases.sendOptions, world.as("pia"), { visitId: world.seeded.visits["noor"] }),
      );
      expect(options.recipient).toEqual({
        relationId: expect.any(String) as string,
        firstName: "Leila",
        name: "Leila Vance",
        kind: "guardian",
        relation: "guardian of Noor",
        language: "en",
        channel: "email",
        masked: "l···@m···.example",
        atDoor: {
          contact: { channel: "email", to: "l···@m···.example" },
          email: "l···@m···.example",
          phone: "···551",
          details: true,
        },
      });
      expect(options.questionnaires.map((q) => q.kind)).toEqual(["intake", "consent", "measure"]);
      expect(options.expiresOn).toBe("2026-12-09");
      expect(
        must(await world.do(useCases.sendOptions, world.as("pia"), { visitId: world.seeded.visits["otto"] })).recipient,
      ).toMatchObject({ channel: undefined, masked: undefined });
    });
    it("is worded with the visit in the practice's zone, the link and its end, and nothing of health", async () => {
      const [letter] = await world.letters(await world.send("cosmo"), "packet");
      expect(letter!.subject).toBe("Before your visit at Fernhollow Care Rooms");
      expect(letter!.body).toMatch(/^Hello Cosmo,/);
      expect(letter!.body).toContain("with Tobias Renn on Wednesday 25 November at 10:00");
      expect(letter!.body).toMatch(/http:\/\/localhost:3000\/p\/[\w-]{43}\n/);
      expect(letter!.body).toContain("open until 9 December");
      expect(letter!.body).not.toMatch(/PHQ|consent|neck|pain/i);
      const [short] = await world.letters(await world.send("edda"), "packet");
      expect([short!.channel, short!.subject]).toEqual(["text", ""]);
      expect(short!.body).toContain("/p/");
    });
    it("is only what is in use", async () => {
      const file = JSON.stringify({
        resourceType: "Questionnaire",
        url: `urn:test:${kind}`,
        title: "Draft",
        status: "active",
        item: [{ linkId: "a", text: "A", type: "string" }],
      });
      const { id } = must(await world.do(useCases.importQuestionnaire, world.as("pia"), { text: file }));
      const send = () =>
        world.do(useCases.sendPacket, world.as("pia"), {
          requestId: world.request(),
          visitId: world.seeded.visits["cosmo"],
          questionnaireIds: [id],
        });
      expect(await send()).toMatchObject({ error: { reason: "not-in-use" } });
      must(await world.do(useCases.putInUse, world.as("pia"), { id }));
      const offered = async (): Promise<string[]> =>
        must(
          await world.do(useCases.sendOptions, world.as("pia"), { visitId: world.seeded.visits["cosmo"] }),
        ).questionnaires.flatMap((q) => (q.usual ? [q.id] : []));
      // Cosmo's first: what was last asked, before other visits of this kind, and not what was merely put in use since.
      expect((await offered()).sort()).toEqual([...world.seeded.questionnaires].sort());
      world.wait(1);
      expect((await send()).ok).toBe(true);
      expect(await offered()).toEqual([id]);
      expect(
        await world.do(useCases.sendPacket, world.as("pia"), {
          requestId: world.request(),
          visitId: world.seeded.visits["cosmo"],
          questionnaireIds: [],
        }),
      ).toMatchObject({
        error: { reason: "invalid", fields: { questionnaireIds: "Choose at least one questionnaire." } },
      });
      expect(
        await world.do(useCases.sendPacket, world.as("pia"), {
          requestId: world.request(),
          visitId: world.request(),
          questionnaireIds: [id],
        }),
      ).toMatchObject({ error: { reason: "not-found" } });
    });
    it("lies in the post room newest first, and opening it is journalled", async () => {
      const { lines } = must(await world.do(useCases.postRoom, world.as("pia"), {}));
      expect(lines.length).toBeGreaterThan(4);
      expect(lines.every((l) => l.masked.includes("···"))).toBe(true);
      const letter = (await world.repo.outbox.latest((await world.app.practice())!.id, 200)).find(
        (m) => m.purpose === "packet",
      )!;
      const seenBy = async (who: "pia" | "maren") =>
        must(await world.do(useCases.postMessage, world.as(who), { messageId: letter.id }));
      expect((await seenBy("maren")).body).toBe(letter.body);
      // Who may not see answers gets nothing that opens a client's page; who may is told that they looked.
      const masked = await seenBy("pia");
      expect(masked.masked).toBe(true);
      expect(masked.body).toMatch(/\/p\/…/);
      expect(masked.body).not.toMatch(/\/p\/[\w-]/);
      expect((await world.journal(`packet:${letter.packetId!}`)).filter((a) => a === "post-room.view")).toHaveLength(2);
    });
  });

  describe("people", () => {
    it("stand in the order of their last names, with how they can be reached", async () => {
      const list = must(await world.do(useCases.people, world.as("pia"), {})).lines;
      expect(list).toHaveLength(10);
      const latin = list.map((p) => p.name.split(" ").at(-1)!).filter((n) => /^[A-Z]/.test(n));
      expect(latin).toEqual([...latin].sort((a, b) => a.localeCompare(b)));
      expect(Object.fromEntries(list.map((p) => [p.name, p.reach]))).toMatchObject({
        "Ines Halvorsen": "e-mail and text",
        "Edda Marsh": "text",
        "Otto Fenn": "neither e-mail nor text",
      });
      expect(list.find((p) => p.name === "Noor Vance")!.age).toBe(15);
    });
    it("have names that are the fold of their chart, for everybody", async () => {
      for (const client of (await world.repo.clients.changedSince(practiceId, undefined)).clients)
        expect(client).toMatchObject(identityOf(foldChart(await world.repo.charts.entries(client.id))));
    });
    it("show in their chart where each value came from", async () => {
      const chart = must(
        await world.do(useCases.chartView, world.as("maren"), { clientId: world.seeded.clients["ines"] }),
      );
      const medicines = chart.sections.flatMap((s) => s.fields).find((f) => f.field.key === "medicines");
      expect(medicines && "rows" in medicines && medicines.rows.map((r) => r.current?.value["name"])).toEqual([
        "Salbutamol",
        "Vitamin D",
        "Melatonin",
      ]);
      expect(chart.postings.map((p) => p.kind)).toEqual(["post", "start"]);
      expect(chart.relations).toEqual([]);
      expect(await world.do(useCases.chartView, world.as("maren"), { clientId: world.request() })).toMatchObject({
        error: { reason: "not-found" },
      });
    });
  });

  it("counts tries one by one even when they come at once, and anew after the window", async () => {
    const count = () => world.repo.limits.count(`test:${kind}`, world.time, laterBy(world.time, -60_000));
    expect((await Promise.all(Array.from({ length: 10 }, count))).sort((a, b) => a - b)).toEqual([
      1, 2, 3, 4, 5, 6, 7, 8, 9, 10,
    ]);
    world.wait(2);
    expect(await count()).toBe(1);
  });
});

import { afterAll, beforeAll, describe, expect, it } from "vitest";
import sharp from "sharp";
import { must } from "../../demo/walk";
import { createApplication, run, runImports, useCases } from "../../src/server";
import { gistOf } from "../../src/core/scoring";
import type { Id } from "../../src/core/shared";
import { kinds, World } from "../support/world";

describe.each(kinds)("clients, on %s", (kind) => {
  let world: World;
  let practiceId: Id<"Practice">;
  beforeAll(async () => {
    world = await World.open(kind);
    practiceId = (await world.app.practice())!.id;
  });
  afterAll(() => world.close());
  const maren = () => world.as("maren");
  const pia = () => world.as("pia");
  const names = async (sought: string, asked: object = {}) =>
    must(await world.do(useCases.people, pia(), { sought, ...asked })).lines.map(({ name }) => name);
  const add = async (firstName: string, rest: object = {}): Promise<Id<"Client">> =>
    must(
      await world.do(useCases.addClient, pia(), {
        requestId: world.request(),
        firstName,
        lastName: "Quist",
        email: `${firstName.toLowerCase()}@mail.example`,
        anyway: true,
        ...rest,
      }),
    ).id;

  it("are found at once by every process, by what another one wrote, and not by what was taken back", async () => {
    const other = createApplication(world.app.database, world.app.ports, world.app.keys);
    const found = async () => must(await run(other, useCases.people, pia(), { sought: "wrenna" })).total;
    expect(await found()).toBe(0);
    const id = await add("Wrenna", { email: "wq@mail.example" });
    expect([await found(), await names("wrenna quist")]).toEqual([1, ["Wrenna Quist"]]);
    const reach = must(await world.do(useCases.reachView, pia(), { clientId: id }));
    const named = { clientId: id, lastName: "Quist", preferredName: "", birthDate: "", seen: reach.identity.seen };
    must(await world.do(useCases.changeIdentity, pia(), { ...named, firstName: "Sorrel" }));
    expect([await found(), await names("sorrel")]).toEqual([0, ["Sorrel Quist"]]);
    // Somebody who looked at the name before it was changed changes nothing back unseen.
    expect(await world.do(useCases.changeIdentity, pia(), { ...named, firstName: "Late" })).toMatchObject({
      error: { reason: "changed" },
    });
    await expect(
      world.app.database.db.transaction(async (tx) => {
        await tx.execute(`update client set archived_at = now() where id = '${id}'`);
        throw new Error("Taken back.");
      }),
    ).rejects.toThrow("Taken back.");
    expect(await names("sorrel")).toEqual(["Sorrel Quist"]);
    // A phone of somebody around them changes who a letter to them goes to.
    const before = must(await world.do(useCases.mailingPeople, pia(), {})).lost;
    const child = await add("Minna", { email: "", phone: "020 7946 0811", birthDate: "2015-05-05" });
    await world.repo.clients.setIdentity(child, { firstName: "Minna", lastName: "Quist", birthDate: "2015-05-05" });
    expect(must(await world.do(useCases.mailingPeople, pia(), {})).lost).toBe(before + 1);
    must(
      await world.do(useCases.addRelation, pia(), {
        requestId: world.request(),
        clientId: child,
        kind: "parent",
        firstName: "Ruth",
        email: "ruth@mail.example",
      }),
    );
    expect(must(await world.do(useCases.mailingPeople, pia(), {})).lost).toBe(before);
  });

  it("archived are in no list, no mailing and no letter until they are brought back", async () => {
    const id = await add("Perrin");
    must(await world.do(useCases.archiveClient, pia(), { clientId: id }));
    expect(await names("")).not.toContain("Perrin Quist");
    expect(await names("", { archived: true })).toEqual(["Perrin Quist"]);
    expect(await names("perrin")).toEqual(["Perrin Quist"]);
    const send = () =>
      world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        clientId: id,
        questionnaireIds: [world.seeded.questionnaires[0]],
      });
    expect(await send()).toMatchObject({ error: { reason: "not-found" } });
    must(await world.do(useCases.bringBackClient, pia(), { clientId: id }));
    must(await send());
    expect(await world.do(useCases.archiveClient, pia(), { clientId: world.seeded.clients["ines"] })).toMatchObject({
      error: { reason: "visits-ahead" },
    });
  });

  it("made one have everything of both, pressed twice once, and are two again with what was theirs", async () => {
    const keptId = world.seeded.clients["hugo"]!;
    const packetId = await world.send("hugo");
    await world.fill(packetId);
    const goneId = await add("Hugh");
    const other = must(
      await world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        clientId: goneId,
        questionnaireIds: [world.seeded.questionnaires[2]],
      }),
    ).packetId;
    must(await world.do(useCases.archiveClient, pia(), { clientId: goneId }));
    const preview = must(await world.do(useCases.mergePreview, maren(), { keptId, goneId }));
    const requestId = world.request();
    const decided = Object.fromEntries(preview.lines.map(({ id }) => [id, id === "email" ? "take" : "keep"]));
    const merge = (set: object = {}) =>
      world.do(useCases.mergeClients, maren(), { requestId, keptId, goneId, seen: preview.seen, decided, ...set });
    expect(await merge({ decided: {} })).toMatchObject({ error: { reason: "undecided" } });
    expect(await merge({ seen: "0 0" })).toMatchObject({ error: { reason: "changed" } });
    expect(await merge({ goneId: keptId })).toMatchObject({ error: { reason: "not-found" } });
    // Office sees no charts, so it cannot decide what stands in them.
    expect(await world.do(useCases.mergePreview, pia(), { keptId, goneId })).toMatchObject({
      error: { reason: "not-allowed" },
    });
    const before = {
      kept: (await world.repo.packets.ofClient(practiceId, keptId)).length,
      email: (await world.repo.clients.byId(practiceId, keptId))!.email,
    };
    const both = await Promise.all([merge(), merge()]);
    expect(both.map(({ ok }) => ok)).toEqual([true, true]);
    expect((await world.repo.packets.ofClient(practiceId, keptId)).map(({ id }) => id)).toContain(other);
    expect(await world.repo.packets.ofClient(practiceId, goneId)).toEqual([]);
    expect((await world.repo.clients.byId(practiceId, keptId))!.email).toBe("hugh@mail.example");
    expect(await names("hugh quist")).toEqual([]);
    const sendTo = { requestId: world.request(), clientId: goneId, questionnaireIds: [world.seeded.questionnaires[0]] };
    expect(await world.do(useCases.sendPacket, maren(), sendTo)).toMatchObject({ error: { reason: "not-found" } });
    const { merged } = must(await world.do(useCases.chartView, maren(), { clientId: keptId }));
    expect(merged).toMatchObject([{ other: { id: goneId }, gone: false }]);
    const { mergeId } = merged[0]!;
    await Promise.all([
      world.do(useCases.undoMerge, maren(), { mergeId }),
      world.do(useCases.undoMerge, maren(), { mergeId }),
    ]);
    expect((await world.repo.packets.ofClient(practiceId, goneId)).map(({ id }) => id)).toEqual([other]);
    expect(await world.repo.packets.ofClient(practiceId, keptId)).toHaveLength(before.kept);
    expect((await world.repo.clients.byId(practiceId, keptId))!.email).toBe(before.email);
    expect(await names("hugh quist")).toEqual(["Hugh Quist"]);
    // Archived before, archived again.
    expect((await world.repo.clients.byId(practiceId, goneId))!.archivedAt).not.toBeNull();
  });

  it("come from a file once each, whoever adds how often at once; what came in meanwhile is refused", async () => {
    const requestId = world.request();
    const { id: importId } = must(await world.do(useCases.beginImport, pia(), { requestId }));
    const row = (line: number) => ({
      line,
      cells: { firstName: `Filed ${line}`, lastName: `No${line}`, email: `filed${line}@mail.example` },
    });
    const rows = Array.from({ length: 45 }, (_, index) => row(index + 2));
    for (let again = 0; again < 2; again++)
      must(
        await world.do(useCases.checkRows, pia(), {
          importId,
          rows: [...rows, { line: 99, cells: { lastName: "Nameless" } }],
        }),
      );
    const view = async () => must(await world.do(useCases.importView, pia(), { importId }));
    // Begun again with other columns, nothing of before is left.
    must(await world.do(useCases.beginImport, pia(), { requestId }));
    expect(await view()).toMatchObject({ ready: 0, refused: 0 });
    const all = [...rows, { line: 99, cells: { lastName: "Nameless" } }];
    must(await world.do(useCases.checkRows, pia(), { importId, rows: all }));
    expect(await view()).toMatchObject({ ready: 45, refused: 1, added: 0, started: false });
    // Nobody else's file.
    expect(await world.do(useCases.importView, maren(), { importId })).toMatchObject({
      error: { reason: "not-found" },
    });
    await add("Meanwhile", { email: "filed7@mail.example" });
    must(await world.do(useCases.startImport, pia(), { importId }));
    await Promise.all([runImports(world.app), ...[1, 2, 3].map(() => world.do(useCases.addNext, pia(), { importId }))]);
    await runImports(world.app);
    expect(await view()).toMatchObject({ ready: 0, refused: 2, added: 44, over: true });
    expect(await names("filed", { most: 40 })).toHaveLength(40);
    expect(must(await world.do(useCases.people, pia(), { sought: "filed" })).total).toBe(45);
    const [held] = (
      (await world.app.database.db.execute(
        `select count(*)::int as n from client_import_row where import_id = '${importId}' and state = 'added' and sealed is not null`,
      )) as unknown as { rows: { n: number }[] }
    ).rows;
    expect(held!.n).toBe(0);
    must(await world.do(useCases.dropImport, pia(), { importId }));
    expect(await world.do(useCases.importView, pia(), { importId })).toMatchObject({ error: { reason: "not-found" } });
  });

  it("the test client is there once, is marked wherever it is named, and stands in no count", async () => {
    const counts = async () => ({
      people: must(await world.do(useCases.people, maren(), {})).total,
      waiting: must(await world.do(useCases.waiting, maren(), {})),
      mailing: must(await world.do(useCases.mailingPeople, maren(), {})).reachable,
    });
    const before = await counts();
    const asked = await Promise.all(
      [1, 2, 3].map(() => world.do(useCases.addTestClient, maren(), { requestId: world.request() })),
    );
    const [clientId, ...same] = asked.map((one) => must(one).id);
    expect(new Set([clientId, ...same]).size).toBe(1);
    const { packetId } = must(
      await world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        clientId,
        questionnaireIds: world.seeded.questionnaires,
      }),
    );
    await world.fill(packetId);
    expect(await counts()).toEqual(before);
    const marked = "Robin Test (test client)";
    expect(await names("robin")).toEqual([marked]);
    const lines = must(await world.do(useCases.returns, maren(), {})).lines;
    expect(lines.find((line) => line.packetId === packetId)).toMatchObject({ clientName: marked });
    expect(must(await world.do(useCases.chartView, maren(), { clientId })).name).toBe(marked);
    const [part] = await world.repo.packets.parts(packetId);
    expect(must(await world.do(useCases.exportPart, maren(), { partId: part!.id })).paper.client).toBe(marked);
    expect(must(await world.do(useCases.exportClients, maren(), {}))).not.toContain("Robin");
  });

  it("what a tray says of a return is what its answers say, kept when it came back, also where none was kept", async () => {
    const packetId = await world.send("tamsin");
    await world.fill(packetId);
    const parts = await world.repo.packets.parts(packetId);
    const scores = [];
    for (const part of parts)
      scores.push(
        gistOf(await world.repo.versions.definition(part.versionId), await world.repo.answers.ofPart(part.id)),
      );
    const line = async () =>
      must(await world.do(useCases.returns, maren(), {})).lines.find((one) => one.packetId === packetId)!;
    const { scores: said, alerts } = await line();
    expect(JSON.stringify({ said, alerts })).toBe(
      JSON.stringify({ said: scores.flatMap((s) => s.scores), alerts: scores.flatMap((s) => s.alerts) }),
    );
    // Kept sealed: nobody with the database alone reads a score.
    const [raw] = (
      (await world.app.database.db.execute(
        `select encode(gist, 'escape') as text from packet_part where packet_id = '${packetId}' and gist is not null limit 1`,
      )) as unknown as { rows: { text: string }[] }
    ).rows;
    expect(raw!.text).not.toMatch(/title|value|PHQ/);
    await world.app.database.db.execute(`update packet_part set gist = null where packet_id = '${packetId}'`);
    expect(JSON.stringify(await line())).toBe(JSON.stringify({ ...(await line()), scores: said, alerts }));
  });

  it("a kind of visit is held by those who are named for it, offered no longer and again, and what is booked stays", async () => {
    const [tobias, salma] = [world.seeded.staff["tobias"]!, world.seeded.staff["salma"]!];
    const requestId = world.request();
    const type = { name: "Feeding clinic", minutes: 30, remote: true };
    must(await world.do(useCases.addVisitType, pia(), { requestId, ...type, practitioners: `${salma} ${requestId}` }));
    const offered = async () =>
      must(await world.do(useCases.visitTypes, pia(), {})).types.find(({ id }) => id === requestId);
    // Who does not work here is nobody.
    expect((await offered())!.practitioners).toEqual([salma]);
    const book = (staffId: string, time: string) =>
      world.do(useCases.bookVisit, pia(), {
        requestId: world.request(),
        clientId: world.seeded.clients["ines"],
        staffId,
        visitTypeId: requestId,
        day: "2026-12-21",
        time,
        minutes: 30,
      });
    expect(await book(tobias, "09:00")).toMatchObject({ error: { reason: "not-theirs" } });
    const visitId = must(await book(salma, "09:00")).id;
    const move = (staffId: string, time: string) =>
      world.do(useCases.moveVisit, pia(), { visitId, staffId, day: "2026-12-21", time, minutes: 30 });
    expect(await move(tobias, "10:00")).toMatchObject({ error: { reason: "not-theirs" } });
    must(await world.do(useCases.changeVisitType, pia(), { visitTypeId: requestId, ...type, practitioners: tobias }));
    must(await move(salma, "10:00"));
    must(await world.do(useCases.retireVisitType, pia(), { visitTypeId: requestId }));
    expect(await offered()).toBeUndefined();
    must(await world.do(useCases.offerVisitType, pia(), { visitTypeId: requestId }));
    expect((await offered())!.name).toBe("Feeding clinic");
  });

  it("a logo is a picture drawn anew, seen by whoever opens a page, at the head of papers and in letters", async () => {
    const png = new Uint8Array(
      await sharp({ create: { width: 60, height: 20, channels: 3, background: "#6a3459" } })
        .png()
        .withExif({ IFD0: { Copyright: "hidden words" } })
        .toBuffer(),
    );
    const save = (bytes: Uint8Array, who = pia()) =>
      world.do(useCases.saveLogo, who, { requestId: world.request(), name: "logo.png", bytes });
    expect(await save(png, world.as("tobias"))).toMatchObject({ error: { reason: "not-allowed" } });
    expect(await save(new TextEncoder().encode("<svg onload=alert(1)>"))).toMatchObject({
      error: { reason: "refused" },
    });
    expect(await world.do(useCases.practiceLogo, world.stranger, {})).toMatchObject({ error: { reason: "not-found" } });
    must(await save(png));
    const { contentType, bytes } = must(await world.do(useCases.practiceLogo, world.stranger, {}));
    expect(contentType).toBe("image/png");
    expect(Buffer.from(bytes).includes("hidden words")).toBe(false);
    must(await world.do(useCases.removeLogo, pia(), {}));
    expect((await world.app.practice())!.logoId).toBeNull();
  });
});

import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { seedPackets } from "../../demo/seed";
import { must } from "../../demo/walk";
import { useCases, type Access, type UseCase } from "../../src/server";
import { rights, wholeSet, type Right } from "../../src/core/team";
import { laterBy, type Id } from "../../src/core/shared";
import type { StaffActor } from "../../src/usecases/kit";
import { kinds, World } from "../support/world";

type AnyUseCase = UseCase<unknown, unknown, unknown, Access>;
const all = Object.entries(useCases) as unknown as [string, AnyUseCase][];
const unknownId = "00000000-0000-4000-8000-000000000000";

/** What of a client's somebody could name in a call. */
interface Belongings {
  readonly clientId: string;
  /** A word that stands in nothing but what is this client's. */
  readonly marker: string;
  readonly packetId: string;
  readonly partId: string;
  readonly visitId: string;
  readonly noteId: string;
  readonly messageId: string;
  readonly postingId: string;
  readonly relationId: string;
  readonly fileId: string;
  readonly mailingId: string;
  readonly mailedId: string;
  readonly consentId: string;
  readonly signerId: string;
  readonly alertId: string;
  readonly scheduleId: string;
  /** Typed again, so that a duplicate would be offered. */
  readonly email: string;
}
/** One input that fits every use case, with the ids of what is somebody's: what a use case does not know is left out. */
const inputFor = (own: Belongings, requestId: string, questionnaireId: string, staffId: string) => ({
  ...own,
  requestId,
  questionnaireId,
  staffId,
  keptId: own.clientId,
  goneId: own.clientId,
  mergeId: unknownId,
  importId: unknownId,
  visitTypeId: unknownId,
  questionnaireIds: [questionnaireId],
  clientIds: [own.clientId],
  people: [],
  revision: 1,
  decisions: [],
  decided: {},
  seen: "x",
  lines: [{ partId: own.partId, key: "main-concern", reason: "Look again" }],
  layoutId: "blank",
  firstName: "Somebody",
  lastName: "Somebody",
  birthDate: "1990-01-01",
  reason: "Standing in",
  phone: "020 7946 0000",
  prefers: "email",
  language: "en",
  kind: "guardian",
  day: "2026-11-25",
  time: "23:00",
  minutes: 30,
  room: "",
  count: 1,
  weeks: 1,
  sought: own.marker,
  rows: [],
  expiresOn: "2026-12-10",
  line: "",
  lineId: "x",
  role: "fills",
  way: "email",
  anyway: true,
  place: "",
  digest: "0".repeat(64),
  name: "Somebody Else",
  title: "",
  who: "client",
  on: "2026-11-25",
  how: "phone",
  present: "Both",
  questions: "",
  accepted: true,
  needed: true,
  mailsPapers: true,
});
/** What does not fit two of them at once. */
const besides: Readonly<Record<string, object>> = {
  cancelVisit: { by: "client" },
  sendPacket: { by: "link" },
  giveLink: { by: "copy" },
  addMarginNote: { key: "main-concern", text: "A remark" },
  dropMarginNote: { id: unknownId },
  writeInChart: { seen: 0, field: "goals", value: "Something else" },
  importChart: { text: "{}" },
  keepPlan: { whose: "own", revision: 0, lines: [] },
  offerPlan: { offered: true },
  takePlan: { planId: unknownId },
  addToNote: { text: "Something later" },
  atNote: { page: "page-of-nobody" },
  dropLayout: { id: unknownId },
  findNotes: { words: "how" },
  keepLayout: { id: unknownId, revision: 0, name: "Theirs", sections: [{ id: "a", heading: "A" }] },
  restoreNote: { restore: 1 },
  saveNote: { body: { type: "doc", content: [] }, takeHome: { type: "doc", content: [] } },
  beginNote: { visitId: undefined, packetId: undefined },
  closeAlert: { done: "Rang them" },
  ownReliability: { linkId: "44261-6" },
  checkVisit: { ticked: [] },
  bringScores: { linkId: "44261-6", text: "E-mail,Date,Score\nx@mail.example,2026-01-01,3\n", dry: false },
  checkPaper: { bytes: new Uint8Array([1]) },
};
/** With these rights one does nothing that names a client; what takes more than ids may be refused for its form. */
const aboutNobody: readonly Access[] = ["own-account", "library.read", "library.write", "office.write"];

describe.each(kinds)("whose clients, on %s", (kind) => {
  let world: World;
  let practiceId: Id<"Practice">;
  const belongings: Belongings[] = [];
  beforeAll(async () => {
    world = await World.open(kind);
    practiceId = (await world.app.practice())!.id;
    await seedPackets(world.app, world.seeded);
    const maren = world.as("maren");
    for (const [key, clientId] of Object.entries(world.seeded.clients)) {
      const packets = await world.repo.packets.ofClient(practiceId, clientId);
      const returned = packets.find(({ state }) => state === "returned" || state === "settled");
      const packet = returned ?? packets[0];
      const note =
        returned &&
        must(await world.do(useCases.beginNote, maren, { packetId: returned.id, requestId: world.request() }));
      const marker = `Zq${key}`;
      await world.do(useCases.changeIdentity, maren, {
        clientId,
        firstName: marker,
        lastName: `${marker}son`,
        birthDate: "1990-01-01",
        seen: must(await world.do(useCases.reachView, maren, { clientId })).identity.seen,
      });
      const mailingId = world.request();
      must(
        await world.do(useCases.startMailing, maren, {
          requestId: mailingId,
          clientIds: [clientId],
          questionnaireIds: [world.seeded.questionnaires[0]],
        }),
      );
      await world.do(useCases.writeNext, maren, { mailingId });
      const scheduleId = world.request();
      const again = { requestId: scheduleId, clientId, questionnaireIds: [world.seeded.questionnaires[2]] };
      must(await world.do(useCases.scheduleMeasures, maren, again));
      const [mailed] = await world.repo.mailings.people(mailingId as Id<"Mailing">);
      belongings.push({
        clientId,
        marker,
        packetId: packet?.id ?? unknownId,
        partId: packet ? (await world.repo.packets.parts(packet.id))[0]!.id : unknownId,
        visitId: (await world.repo.visits.ofClient(practiceId, clientId))[0]?.id ?? unknownId,
        noteId: note?.noteId ?? unknownId,
        messageId: packet ? ((await world.repo.outbox.ofPacket(packet.id))[0]?.id ?? unknownId) : unknownId,
        postingId: (await world.repo.charts.postings(clientId))[0]!.id,
        relationId: (await world.repo.relations.ofClient(clientId))[0]?.id ?? unknownId,
        fileId: unknownId,
        mailingId,
        mailedId: mailed?.packetId ?? unknownId,
        consentId: (await world.repo.consents.all(practiceId, [clientId]))[0]?.id ?? unknownId,
        scheduleId,
        alertId: (await world.repo.alerts.ofClients([clientId]))[0]?.id ?? unknownId,
        signerId: packet ? ((await world.repo.signers.ofPacket(packet.id))[0]?.id ?? unknownId) : unknownId,
        email: (await world.repo.clients.byId(practiceId, clientId))!.email ?? "nobody@mail.example",
      });
    }
  });
  afterAll(() => world.close());

  const everyRight = rights.filter((right) => !wholeSet([right]).includes("clients.all"));
  /** Whose clients are whose from now on: nobody has any of before. */
  async function assign(staffId: Id<"Staff">, own: readonly Belongings[]): Promise<void> {
    await world.app.database.db.execute(`delete from client_staff where staff_id = '${staffId}'`);
    for (const { clientId } of own) await world.repo.careTeams.join(clientId as Id<"Client">, staffId);
  }
  const give = async (set: readonly Right[]): Promise<void> => {
    await world.repo.practices.setRights(practiceId, { practitioner: wholeSet(set) });
  };
  const call = async (useCase: AnyUseCase, actor: StaffActor, input: object) => world.do(useCase, actor, input);
  const words = (hidden: Belongings): string[] =>
    Object.entries(hidden).flatMap(([name, value]) =>
      value === unknownId || ["mailingId", "email"].includes(name) ? [] : [value],
    );
  const reached = new Set<string>();

  it("whatever rights and clients are drawn, no use case shows a client to who may not see them, or changes anything of theirs", async () => {
    const drawn = fc.record({
      who: fc.constantFrom("tobias", "salma"),
      set: fc.oneof(fc.constant(everyRight), fc.subarray(everyRight, { minLength: 3 })),
      own: fc.subarray(
        Object.keys(world.seeded.clients).map((_, index) => index),
        { maxLength: 8 },
      ),
    });
    await fc.assert(
      fc.asyncProperty(drawn, async ({ who, set, own }) => {
        const actor = world.as(who as "tobias") as StaffActor;
        const mine = belongings.filter((_, index) => own.includes(index));
        const hidden = belongings.filter((_, index) => !own.includes(index));
        await assign(actor.id, mine);
        await give(set);
        const last = (await world.repo.journal.latest(practiceId, 1))[0]!.seq;
        // Whoever has most that could be shown.
        const target = hidden.toSorted((a, b) => words(b).length - words(a).length)[0]!;
        for (const [name, useCase] of all) {
          // What ends the session ends no sight; who is nobody yet sees nothing.
          if (["anyone", "set-up", "client", "client.fill", "client.sign", "client.any"].includes(useCase.access))
            continue;
          const input = {
            ...inputFor(target, world.request(), world.seeded.questionnaires[0]!, actor.id),
            ...besides[name],
          };
          const result = await call(useCase, actor, input);
          const reason = result.ok ? "" : (result.error as { reason: string }).reason;
          if (reason !== "invalid" && reason !== "not-allowed") reached.add(name);
          if (reason === "invalid") expect(aboutNobody, `${name}: ${JSON.stringify(result)}`).toContain(useCase.access);
          const said = JSON.stringify(result) ?? "";
          for (const one of hidden)
            for (const word of words(one)) expect(said.includes(word), `${name} shows ${word}`).toBe(false);
        }
        // With what is theirs, queries show that and nothing else.
        for (const [name, useCase] of all.filter(([, u]) => u.kind === "query" && rights.includes(u.access as Right))) {
          const one = mine[0] ?? target;
          const input = { ...inputFor(one, world.request(), world.seeded.questionnaires[0]!, actor.id), sought: "" };
          const said = JSON.stringify(await call(useCase, actor, input)) ?? "";
          for (const other of hidden)
            for (const word of words(other)) expect(said.includes(word), `${name} shows ${word}`).toBe(false);
        }
        const changed = (await world.repo.journal.latest(practiceId, 5000)).filter(({ seq }) => seq > last);
        const theirs = new Set(
          hidden.flatMap((one) => [
            `client:${one.clientId}`,
            `packet:${one.packetId}`,
            `visit:${one.visitId}`,
            `note:${one.noteId}`,
          ]),
        );
        // Opened with a reason is the one way, and it was taken by name and day.
        expect(changed.filter(({ subject, action }) => theirs.has(subject) && action !== "client.open")).toEqual([]);
        await world.app.database.db.execute("alter table client_opening disable trigger all");
        await world.app.database.db.execute("delete from client_opening");
        await world.app.database.db.execute("alter table client_opening enable trigger all");
        await world.repo.limits.clear(`open-client ${actor.id}`);
      }),
      { numRuns: 8, endOnFailure: true },
    );
    // It did not pass by being refused at the door: what is about clients was reached.
    for (const name of [
      "people",
      "chartView",
      "returnView",
      "returns",
      "daySheet",
      "sendPacket",
      "mailingPeople",
      "exportClients",
      "mergeClients",
      "bookVisit",
      "postToChart",
      "writeInChart",
      "keepDecisions",
      "addMarginNote",
      "exportChart",
      "chartPaper",
      "beginNote",
      "findNotes",
      "finishNote",
      "noteView",
      "takeOutNote",
      "openFile",
      "postMessage",
      "packetSigning",
      "openPaper",
      "withdrawConsent",
    ])
      expect([...reached]).toContain(name);
  });

  it("shows their own, and everybody's to who may see all", async () => {
    await give(everyRight);
    const tobias = world.as("tobias") as StaffActor;
    const mine = belongings.slice(0, 3);
    await assign(tobias.id, mine);
    const seen = must(await world.do(useCases.people, tobias, {}));
    expect(seen.lines.map(({ id }) => id).sort()).toEqual(mine.map(({ clientId }) => clientId).sort());
    for (const { clientId } of mine) must(await world.do(useCases.chartView, tobias, { clientId }));
    expect(must(await world.do(useCases.people, world.as("maren"), {})).total).toBeGreaterThanOrEqual(
      belongings.length,
    );
    // What a visit brings: whose visit it is, theirs the client is.
    const other = belongings[5]!;
    const [type] = await world.repo.visitTypes.all(practiceId);
    must(
      await world.do(useCases.bookVisit, world.as("pia"), {
        requestId: world.request(),
        clientId: other.clientId,
        staffId: tobias.id,
        visitTypeId: type!.id,
        day: "2026-12-20",
        time: "07:00",
        minutes: 30,
        room: "",
        count: 1,
        weeks: 1,
      }),
    );
    must(await world.do(useCases.chartView, tobias, { clientId: other.clientId }));
  });

  it("opens a colleague's client with a reason, by name and birth date, for a day; owners and whose it is are told", async () => {
    await give(everyRight);
    const tobias = world.as("tobias") as StaffActor;
    await assign(tobias.id, []);
    const salma = world.seeded.staff["salma"]!;
    const { clientId, marker } = belongings[2]!;
    await world.repo.careTeams.join(clientId as Id<"Client">, salma);
    const asked = {
      firstName: marker.toUpperCase(),
      lastName: `${marker}son`,
      birthDate: "1990-01-01",
      reason: "Crisis call",
    };
    const open = (with_: object = {}) => world.do(useCases.openClient, tobias, { ...asked, ...with_ });
    expect(await open({ reason: "" })).toMatchObject({ error: { reason: "invalid" } });
    expect(await open({ birthDate: "1990-01-02" })).toEqual(await open({ firstName: "Nobody" }));
    expect(await world.do(useCases.chartView, tobias, { clientId })).toMatchObject({ error: { reason: "not-found" } });
    const { until } = must(await open());
    expect(until).toBe(laterBy(world.time, 24 * 3_600_000));
    must(await world.do(useCases.chartView, tobias, { clientId }));
    const told = (await world.repo.outbox.latest(practiceId, 50)).filter(({ purpose }) => purpose === "opened");
    expect(told.map(({ to }) => to)).toEqual(
      expect.arrayContaining(["maren@fernhollow.example", "salma@fernhollow.example"]),
    );
    // Who it is stands in no letter.
    expect(JSON.stringify(told.map(({ subject, body }) => subject + body))).not.toContain(marker);
    expect(await world.journal(`client:${clientId}`)).toContain("client.open");
    const { careTeam } = must(await world.do(useCases.reachView, world.as("maren"), { clientId }));
    expect(careTeam.openings[0]).toMatchObject({ reason: "Crisis call" });
    world.wait(24 * 60);
    expect(await world.do(useCases.chartView, tobias, { clientId })).toMatchObject({ error: { reason: "not-found" } });
    for (let tries = 0; tries < 12; tries++) await open({ firstName: `Guess ${tries}` });
    expect(await open()).toMatchObject({ error: { reason: "too-many" } });
  });
});

import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { run, staffActor, useCases, type Application } from "../../src/server";
import { rights, rightsOf, startingRights, type Right } from "../../src/core/team";
import { instant, instantMs, laterBy, roles, type Id, type Role } from "../../src/core/shared";
import { setUpCodeWords } from "../../src/usecases/practice";
import type { StaffActor } from "../../src/usecases/kit";
import { bareApplication, kinds, World } from "../support/world";

const from = { address: "192.0.2.7", device: "test" };
const stranger = { kind: "stranger" as const, ...from };
const newPassword = "walnut mooring tuesday";

describe.each(kinds)("an empty installation on %s", (kind) => {
  let app: Application;
  beforeAll(async () => {
    app = await bareApplication(kind);
  });
  afterAll(() => app.database.close());
  const input = (code: string) => ({
    code,
    practiceName: "Larkfield Rooms",
    practiceEmail: "hello@larkfield.example",
    address: "1 Quay Street",
    country: "IE",
    language: "en",
    zone: "Europe/Dublin",
    name: "Orla Byrne",
    email: "Orla@Larkfield.example",
    newPassword,
  });
  it("has nothing for anybody before it is set up", async () => {
    expect(await run(app, useCases.signIn, stranger, { email: "a@b.example", password: "x" })).toMatchObject({
      error: { reason: "not-found" },
    });
  });
  it("is set up only by whoever has the code, with a password that is none everybody has, and once of many at once", async () => {
    const code = setUpCodeWords(app.ports.sealer);
    expect(code).toMatch(/^[A-Z2-9]{4}-[A-Z2-9]{4}-[A-Z2-9]{4}$/);
    const wrong = `${code.startsWith("A") ? "B" : "A"}${code.slice(1)}`;
    expect(await run(app, useCases.setUp, stranger, input(wrong))).toMatchObject({ error: { reason: "wrong-code" } });
    for (const common of ["passwordpassword", "larkfield rooms larkfield", "1234567890123456"])
      expect(await run(app, useCases.setUp, stranger, { ...input(code), newPassword: common }), common).toMatchObject({
        error: { reason: "common" },
      });
    expect(await run(app, useCases.setUp, stranger, { ...input(code), newPassword: "short" })).toMatchObject({
      error: { fields: { newPassword: expect.stringContaining("15") as string } },
    });
    expect(await app.practice()).toBeUndefined();
    const all = await Promise.all(
      Array.from({ length: 5 }, () => run(app, useCases.setUp, stranger, input(code.toLowerCase()))),
    );
    expect(all.filter(({ ok }) => ok).length).toBe(1);
    expect(await app.practice()).toMatchObject({
      name: "Larkfield Rooms",
      locale: "en-IE",
      zone: "Europe/Dublin",
      languages: ["en"],
    });
    expect(await run(app, useCases.setUp, stranger, input(code))).toMatchObject({ error: { reason: "not-allowed" } });
    expect(
      await run(app, useCases.signIn, stranger, { email: "orla@larkfield.example", password: newPassword }),
    ).toMatchObject({ ok: true });
  });
  it("says what is still to do, as far as it is", async () => {
    const { token } = must(
      await run(app, useCases.signIn, stranger, { email: "orla@larkfield.example", password: newPassword }),
    );
    const orla = await staffActor(app, token, from);
    const todo = async () =>
      must(await run(app, useCases.daySheet, orla, {}))
        .firstSteps.filter(({ done }) => !done)
        .map(({ step }) => step);
    expect(await todo()).toEqual([
      "visit-types",
      "questionnaires",
      "door",
      "colleagues",
      "letter",
      "test-client",
      "visit",
    ]);
    must(
      await run(app, useCases.addVisitType, orla, {
        requestId: app.ports.random.id(),
        name: "First visit",
        minutes: 50,
      }),
    );
    must(await run(app, useCases.tryLetter, orla, {}));
    must(await run(app, useCases.addTestClient, orla, { requestId: app.ports.random.id() }));
    expect(await todo()).toEqual(["questionnaires", "door", "colleagues", "visit"]);
  });
});

describe.each(kinds)("the staff on %s", (kind) => {
  let world: World;
  let practiceId: Id<"Practice">;
  beforeAll(async () => {
    world = await World.open(kind);
    practiceId = (await world.app.practice())!.id;
  });
  afterAll(() => world.close());
  const ticketOf = async (purpose: "invite" | "reset"): Promise<string> => {
    const letter = (await world.repo.outbox.latest(practiceId, 100)).find((m) => m.purpose === purpose)!;
    return /\/join\/([\w-]+)/.exec(letter.body)![1]!;
  };
  const signIn = (email: string, password: string) => world.do(useCases.signIn, world.stranger, { email, password });
  const asOwner = () => world.as("maren");

  it("a colleague is invited, chooses a password by a link that works once, and can do what their role may", async () => {
    const requestId = world.request();
    const colleague = {
      requestId,
      name: "Wren Abara",
      title: "",
      role: "supervisor",
      email: "Wren@fernhollow.example",
    };
    expect(await world.do(useCases.inviteColleague, world.as("tobias"), colleague)).toMatchObject({
      error: { reason: "not-allowed" },
    });
    must(await world.do(useCases.inviteColleague, asOwner(), colleague));
    must(await world.do(useCases.inviteColleague, asOwner(), colleague));
    expect(
      await world.do(useCases.inviteColleague, asOwner(), { ...colleague, requestId: world.request() }),
    ).toMatchObject({ error: { reason: "known-address" } });
    expect(await signIn("wren@fernhollow.example", newPassword)).toMatchObject({ error: { reason: "wrong" } });

    // Mistyped: the invitation goes to the right address, and the one before is worth nothing.
    const mistyped = await ticketOf("invite");
    const to = (email: string) =>
      world.do(useCases.changeColleague, asOwner(), { ...colleague, staffId: requestId, email });
    expect(await to("pia@fernhollow.example")).toMatchObject({ error: { reason: "known-address" } });
    must(await to("wren.abara@fernhollow.example"));
    expect(await world.do(useCases.openTicket, world.stranger, { token: mistyped })).toMatchObject({ ok: false });
    must(await to("wren@fernhollow.example"));
    must(await to(""));
    const first = await ticketOf("invite");
    must(await world.do(useCases.inviteAgain, asOwner(), { staffId: requestId }));
    expect(await world.do(useCases.openTicket, world.stranger, { token: first })).toMatchObject({ ok: false });
    const token = await ticketOf("invite");
    expect(must(await world.do(useCases.openTicket, world.stranger, { token }))).toMatchObject({ name: "Wren Abara" });
    const both = await Promise.all([
      world.do(useCases.takeTicket, world.stranger, { token, newPassword }),
      world.do(useCases.takeTicket, world.stranger, { token, newPassword }),
    ]);
    expect(both.filter(({ ok }) => ok).length).toBe(1);
    const wren = await staffActor(world.app, must(both.find(({ ok }) => ok)!).token, from);
    expect(wren).toMatchObject({ kind: "staff", role: "supervisor" });
    // From then on the address is the person's own: with it a password is chosen anew.
    expect(await to("somebody@fernhollow.example")).toMatchObject({ error: { reason: "not-allowed" } });
    expect(await world.do(useCases.returns, wren, {})).toMatchObject({ ok: true });
    expect(await world.do(useCases.sendOptions, wren, {})).toMatchObject({ error: { reason: "not-allowed" } });
  });

  it("who reads the Post room without managing staff gets nobody's account out of it", async () => {
    const invite = (await world.repo.outbox.latest(practiceId, 100)).find((m) => m.purpose === "invite")!;
    const seen = must(await world.do(useCases.postMessage, world.as("tobias"), { messageId: invite.id }));
    expect([seen.masked, seen.body!.includes(await ticketOf("invite"))]).toEqual([true, false]);
  });

  it("a password is changed with the old one, ends all other sessions, and a device that was known is none any more", async () => {
    const email = "salma@fernhollow.example";
    const { demoPassword } = await import("../../demo/scenario");
    const [here, elsewhere] = [must(await signIn(email, demoPassword)), must(await signIn(email, demoPassword))];
    const salma = await staffActor(world.app, here.token, from);
    const change = (password: string, to: string) =>
      world.do(useCases.changePassword, salma, { password, newPassword: to });
    expect(await change("not it", newPassword)).toMatchObject({ error: { reason: "wrong" } });
    expect(await change(demoPassword, "salma idris salma idris")).toMatchObject({ error: { reason: "common" } });
    must(await change(demoPassword, newPassword));
    expect((await staffActor(world.app, here.token, from)).kind).toBe("staff");
    expect((await staffActor(world.app, elsewhere.token, from)).kind).toBe("stranger");
    expect(await signIn(email, demoPassword)).toMatchObject({ ok: false });
    must(await signIn(email, newPassword));
    expect(must(await world.do(useCases.ownSessions, salma, {})).filter((one) => one.here).length).toBe(1);
    expect(must(await world.do(useCases.ownSessions, salma, {})).length).toBe(2);
    must(await world.do(useCases.signOutElsewhere, salma, {}));
    expect(must(await world.do(useCases.ownSessions, salma, {})).length).toBe(1);
  });

  it("a forgotten password is chosen anew by a letter, for an hour; nobody is told whether there is an account", async () => {
    const count = async () => (await world.repo.outbox.latest(practiceId, 200)).length;
    const before = await count();
    await world.do(useCases.forgotPassword, world.stranger, { email: "nobody@fernhollow.example" });
    expect(await count()).toBe(before);
    await world.do(useCases.forgotPassword, world.stranger, { email: "tobias@fernhollow.example" });
    const token = await ticketOf("reset");
    const held = must(await signIn("tobias@fernhollow.example", (await import("../../demo/scenario")).demoPassword));
    world.wait(61);
    expect(await world.do(useCases.openTicket, world.stranger, { token })).toMatchObject({ ok: false });
    world.wait(-61);
    must(await world.do(useCases.takeTicket, world.stranger, { token, newPassword: "pebble orchard lantern" }));
    expect((await staffActor(world.app, held.token, from)).kind).toBe("stranger");
    expect(await world.do(useCases.takeTicket, world.stranger, { token, newPassword })).toMatchObject({ ok: false });
    // However often it is asked for, only so many letters go out.
    const sent = await count();
    for (let times = 0; times < 20; times++)
      await world.do(useCases.forgotPassword, world.stranger, { email: "tobias@fernhollow.example" });
    expect((await count()) - sent).toBeLessThan(10);
  });

  it("there is always an owner: the last one can neither leave nor step back, of two at once only one", async () => {
    const maren = world.seeded.staff["maren"]!;
    const change = (staffId: string, role: Role) =>
      world.do(useCases.changeColleague, asOwner(), { staffId, name: "X", title: "", role });
    for (const done of [
      await change(maren, "practitioner"),
      await world.do(useCases.leavePractice, asOwner(), { staffId: maren }),
    ])
      expect(done).toMatchObject({ error: { reason: "last-owner" } });
    // An owner who is only invited is none yet.
    const requestId = world.request();
    const second = { requestId, name: "Second", title: "", role: "owner", email: "second@fernhollow.example" };
    must(await world.do(useCases.inviteColleague, asOwner(), second));
    expect(await change(maren, "practitioner")).toMatchObject({ error: { reason: "last-owner" } });
    must(await world.do(useCases.takeTicket, world.stranger, { token: await ticketOf("invite"), newPassword }));
    const both = await Promise.all([change(maren, "practitioner"), change(requestId, "practitioner")]);
    expect(both.filter(({ ok }) => ok).length).toBe(1);
    await world.repo.staff.setMember(maren, { role: "owner", name: "Maren Holloway" });
  });

  it("who leaves is out at once; their visits go to a colleague who has time for all, or nothing happens", async () => {
    const tobias = world.seeded.staff["tobias"]!;
    const { token } = must(await signIn("tobias@fernhollow.example", "pebble orchard lantern"));
    const leave = (toId?: string) => world.do(useCases.leavePractice, asOwner(), { staffId: tobias, toId });
    expect(await leave()).toMatchObject({ error: { reason: "work-left" } });
    const theirs = await world.repo.careTeams.clientsOf(tobias);
    expect(theirs.length).toBeGreaterThan(0);
    const heir = world.seeded.staff["salma"]!;
    const ahead = await world.repo.visits.aheadOf(tobias, world.time);
    const [busy] = [(await world.repo.visits.byId(practiceId, ahead[0]!))!];
    const { id: visitTypeId } = (await world.repo.visitTypes.all(practiceId))[0]!;
    const inTheWay = world.app.ports.random.id<"Visit">();
    await world.repo.visits.add([
      {
        id: inTheWay,
        practiceId,
        clientId: busy.client.id,
        staffId: heir,
        visitTypeId,
        startsAt: busy.startsAt,
        endsAt: busy.endsAt,
      },
    ]);
    expect(await leave(heir)).toMatchObject({ error: { reason: "not-free" } });
    expect((await staffActor(world.app, token, from)).kind).toBe("staff");
    expect(await world.repo.visits.aheadOf(tobias, world.time)).toEqual(ahead);
    await world.repo.visits.cancel(inTheWay, "practice", world.time);
    must(await leave(heir));
    expect((await staffActor(world.app, token, from)).kind).toBe("stranger");
    expect(await signIn("tobias@fernhollow.example", "pebble orchard lantern")).toMatchObject({ ok: false });
    expect(await world.repo.visits.aheadOf(tobias, world.time)).toEqual([]);
    // Their clients are the colleague's now, and theirs no longer.
    expect(await world.repo.careTeams.clientsOf(tobias)).toEqual([]);
    expect(await world.repo.careTeams.clientsOf(heir)).toEqual(expect.arrayContaining(theirs));
    must(await world.do(useCases.comeBack, asOwner(), { staffId: tobias }));
    // What was open before stays closed.
    expect((await staffActor(world.app, token, from)).kind).toBe("stranger");
    must(await signIn("tobias@fernhollow.example", "pebble orchard lantern"));
  });

  it("who manages staff without being an owner makes nobody an owner, touches none, and widens nothing", async () => {
    must(
      await world.do(useCases.setRights, asOwner(), {
        role: "office",
        rights: [...startingRights.office, "staff.manage"],
      }),
    );
    const pia = world.as("pia");
    const [piaId, marenId] = [world.seeded.staff["pia"]!, world.seeded.staff["maren"]!];
    const owner = { name: "X", title: "", role: "owner" };
    const mail = { requestId: world.request(), email: "x@fernhollow.example" };
    for (const done of [
      await world.do(useCases.changeColleague, pia, { ...owner, staffId: piaId }),
      await world.do(useCases.changeColleague, pia, { ...owner, staffId: marenId, role: "office" }),
      await world.do(useCases.inviteColleague, pia, { ...owner, ...mail }),
      await world.do(useCases.leavePractice, pia, { staffId: marenId }),
      await world.do(useCases.setRights, pia, { role: "office", rights: [...rights] }),
      await world.do(useCases.requireSecondFactor, pia, { on: false }),
    ])
      expect(done).toMatchObject({ error: { reason: "not-allowed" } });
    must(await world.do(useCases.inviteColleague, pia, { ...owner, ...mail, role: "practitioner" }));
    must(await world.do(useCases.setRights, asOwner(), { role: "office", rights: [], anew: "yes" }));
  });

  it("where a second factor is asked of everybody, nothing opens without one but one's own account", async () => {
    const pia = { ...(world.as("pia") as StaffActor), secondFactor: false };
    expect(await world.do(useCases.requireSecondFactor, asOwner(), { on: true })).toMatchObject({
      error: { reason: "own-first" },
    });
    await world.repo.staff.setTotp(world.seeded.staff["maren"]!, "SECRET", true, 0);
    must(await world.do(useCases.requireSecondFactor, asOwner(), { on: true }));
    expect(await world.do(useCases.daySheet, pia, {})).toMatchObject({ error: { reason: "not-allowed" } });
    must(await world.do(useCases.startSecondFactor, pia, {}));
    expect(await world.do(useCases.daySheet, { ...pia, secondFactor: true }, {})).toMatchObject({ ok: true });
    must(await world.do(useCases.requireSecondFactor, asOwner(), { on: false }));
    expect(await world.do(useCases.daySheet, pia, {})).toMatchObject({ ok: true });
  });

  it("of two at once with one recovery code, one gets in", async () => {
    const { generate } = await import("otplib");
    const salma = world.as("salma") as Awaited<ReturnType<typeof staffActor>>;
    const { secret } = must(await world.do(useCases.startSecondFactor, salma, {}));
    const code = await generate({ secret, epoch: Math.floor(instantMs(world.time) / 1000) });
    const { codes } = must(await world.do(useCases.confirmSecondFactor, salma, { code }))!;
    const halfway = async () => must(await signIn("salma@fernhollow.example", newPassword)).token;
    const tokens = [await halfway(), await halfway()];
    const both = await Promise.all(
      tokens.map((token) => world.do(useCases.verifySecondFactor, world.stranger, { token, code: codes[0] })),
    );
    expect(both.filter(({ ok }) => ok).length).toBe(1);
    const { codes: fresh } = must(await world.do(useCases.renewRecoveryCodes, salma, { password: newPassword }));
    const old = { token: await halfway(), code: codes[1] };
    expect(await world.do(useCases.verifySecondFactor, world.stranger, old)).toMatchObject({ ok: false });
    must(await world.do(useCases.verifySecondFactor, world.stranger, { ...old, code: fresh[1] }));
  });

  it("whatever sets a practice draws, a role may what its set says and nothing more, and an owner everything", async () => {
    const able = Object.values(useCases).filter(({ access }) => (rights as readonly string[]).includes(access));
    expect(able.length).toBeGreaterThan(60);
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...roles.filter((role) => role !== "owner")),
        fc.subarray([...rights]),
        async (role, chosen) => {
          must(await world.do(useCases.setRights, asOwner(), { role, rights: chosen }));
          const { rights: sets } = (await world.app.practice())!;
          const may = rightsOf(role, sets);
          expect(chosen.every((right) => may.includes(right))).toBe(true);
          const actor = { ...world.as("tobias"), role } as ReturnType<typeof world.as>;
          for (const useCase of able) {
            // Input that is none: what is allowed gets as far as that, or has nothing to ask for.
            const done = await world.do(useCase as typeof useCases.team, actor, []);
            const refused = !done.ok && done.error.reason === "not-allowed";
            expect(refused, `${role}: ${useCase.name}`).toBe(!may.includes(useCase.access as Right));
          }
        },
      ),
      { numRuns: 6 },
    );
    for (const role of ["office", "practitioner", "supervisor"])
      must(await world.do(useCases.setRights, asOwner(), { role, rights: [], anew: "yes" }));
    expect(rightsOf("office", (await world.app.practice())!.rights)).toEqual(startingRights.office);
  });
});

describe.each(kinds)("visits by hand on %s", (kind) => {
  let world: World;
  let practiceId: Id<"Practice">;
  let visitTypeId: Id<"VisitType">;
  beforeAll(async () => {
    world = await World.open(kind);
    practiceId = (await world.app.practice())!.id;
    visitTypeId = world.request() as Id<"VisitType">;
    must(
      await world.do(useCases.addVisitType, world.as("pia"), {
        requestId: visitTypeId,
        name: "Trial",
        minutes: 30,
        room: "Room 1",
      }),
    );
  });
  afterAll(() => world.close());
  const ask = (day: string, time: string, more: object = {}) => ({
    requestId: world.request(),
    clientId: world.seeded.clients["ines"],
    staffId: world.seeded.staff["maren"],
    visitTypeId,
    day,
    time,
    minutes: 30,
    room: "",
    ...more,
  });
  const book = (day: string, time: string, more?: object) =>
    world.do(useCases.bookVisit, world.as("pia"), ask(day, time, more));

  it("of fifty at once for one time, one is made, and one by the same press is made once", async () => {
    const all = await Promise.all(
      Array.from({ length: 50 }, (_, n) => book("2027-03-01", n % 2 ? "10:00" : "10:15", { minutes: 45 })),
    );
    expect(all.filter(({ ok }) => ok).length).toBe(1);
    for (const done of all) if (!done.ok) expect(done.error).toMatchObject({ reason: "not-free", taken: "person" });
    const same = ask("2027-03-01", "15:00");
    const twice = await Promise.all([1, 2].map(() => world.do(useCases.bookVisit, world.as("pia"), same)));
    expect(twice.every(({ ok }) => ok)).toBe(true);
    const day = must(await world.do(useCases.daySheet, world.as("pia"), { day: "2027-03-01" }));
    expect(day.lines.length).toBe(2);
  });

  it("a room is taken once at a time, whoever is in it; one that ends as the other begins is none too many", async () => {
    const inRoom = (time: string, staff: string) =>
      book("2027-03-02", time, { staffId: world.seeded.staff[staff], room: "Room 1" });
    must(await inRoom("09:00", "maren"));
    expect(await inRoom("09:15", "tobias")).toMatchObject({ error: { reason: "not-free", taken: "room" } });
    must(await inRoom("09:30", "tobias"));
    must(await book("2027-03-02", "09:00", { staffId: world.seeded.staff["salma"] }));
  });

  it("a series keeps its time by the wall clock where clocks change, and stands whole or not at all", async () => {
    // Clocks in London go forward on 28 March 2027, a Sunday: 10:00 is 10:00 UTC before and 09:00 UTC after.
    must(await book("2027-03-22", "10:00", { count: 2 }));
    const of = async (day: string) =>
      must(await world.do(useCases.daySheet, world.as("pia"), { day })).lines.map(({ startsAt }) => startsAt);
    expect([await of("2027-03-22"), await of("2027-03-29")]).toEqual([
      ["2027-03-22T10:00:00.000Z"],
      ["2027-03-29T09:00:00.000Z"],
    ]);
    expect(await book("2027-03-15", "10:00", { count: 3 })).toMatchObject({
      error: { reason: "not-free", at: "2027-03-22T10:00:00.000Z" },
    });
    expect(await of("2027-03-15")).toEqual([]);
    const week = must(await world.do(useCases.week, world.as("pia"), { day: "2027-03-28" }));
    expect(week.days.map(({ day, lines }) => `${day} ${lines.length}`)).toEqual([
      "2027-03-22 1",
      "2027-03-23 0",
      "2027-03-24 0",
      "2027-03-25 0",
      "2027-03-26 0",
      "2027-03-27 0",
      "2027-03-28 0",
    ]);
  });

  it("is moved, cancelled and taken up again, where its time is free", async () => {
    const { id: visitId } = must(await book("2027-04-05", "11:00"));
    must(await book("2027-04-05", "12:00"));
    const move = (time: string) =>
      world.do(useCases.moveVisit, world.as("tobias"), {
        ...ask("2027-04-05", time),
        visitId,
      });
    expect(await move("11:45")).toMatchObject({ error: { reason: "not-free", taken: "person" } });
    must(await move("11:15"));
    must(await world.do(useCases.cancelVisit, world.as("pia"), { visitId, by: "client" }));
    expect(await move("09:00")).toMatchObject({ error: { reason: "not-found" } });
    expect(await world.do(useCases.sendOptions, world.as("pia"), { visitId })).toMatchObject({ ok: false });
    const sheet = must(await world.do(useCases.daySheet, world.as("pia"), { day: "2027-04-05" }));
    expect([sheet.lines.length, sheet.cancelled.map(({ by }) => by)]).toEqual([1, ["client"]]);
    must(await book("2027-04-05", "11:15"));
    expect(await world.do(useCases.restoreVisit, world.as("pia"), { visitId })).toMatchObject({
      error: { reason: "not-free" },
    });
  });

  it("whatever is made, moved, cancelled and taken up again, nobody and no room is in two visits at once", async () => {
    const people = ["maren", "tobias"] as const;
    const visits: Id<"Visit">[] = [];
    const step = fc.record({
      what: fc.constantFrom("book", "move", "cancel", "restore"),
      hour: fc.integer({ min: 8, max: 11 }),
      quarter: fc.constantFrom("00", "15", "30", "45"),
      minutes: fc.constantFrom(15, 30, 60),
      staff: fc.constantFrom(...people),
      room: fc.constantFrom("", "Room 1", "Room 2"),
      which: fc.nat(20),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 10, maxLength: 25 }), async (steps) => {
        for (const { what, hour, quarter, minutes, staff, room, which } of steps) {
          const time = `${String(hour).padStart(2, "0")}:${quarter}`;
          const asked = ask("2027-05-03", time, { staffId: world.seeded.staff[staff], minutes, room });
          const visitId = visits[which % Math.max(1, visits.length)];
          if (what === "book") {
            const done = await world.do(useCases.bookVisit, world.as("pia"), asked);
            if (done.ok) visits.push(done.value.id);
          } else if (visitId && what === "move")
            await world.do(useCases.moveVisit, world.as("pia"), { ...asked, visitId });
          else if (visitId && what === "cancel")
            await world.do(useCases.cancelVisit, world.as("pia"), { visitId, by: "practice" });
          else if (visitId) await world.do(useCases.restoreVisit, world.as("pia"), { visitId });
        }
        const day = instant("2027-05-03T00:00:00Z");
        const held = await world.repo.visits.between(practiceId, day, laterBy(day, 86_400_000));
        for (const [index, one] of held.entries())
          for (const other of held.slice(index + 1)) {
            const overlap =
              instantMs(one.startsAt) < instantMs(other.endsAt) && instantMs(other.startsAt) < instantMs(one.endsAt);
            const shares = one.staffId === other.staffId || (one.room !== "" && one.room === other.room);
            expect(overlap && shares, `${one.startsAt} ${other.startsAt}`).toBe(false);
          }
      }),
      { numRuns: 5 },
    );
    expect(visits.length).toBeGreaterThan(5);
  });
});

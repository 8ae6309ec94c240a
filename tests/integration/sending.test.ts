import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { consentYes, hugoIntake, phq9 } from "../../demo/answers";
import { must } from "../../demo/walk";
import { clientActor, useCases } from "../../src/server";
import { renderOwnPaper } from "../../src/adapters/own-paper";
import type { Id } from "../../src/core/shared";
import { textByPoppler } from "../support/pdf";
import { kinds, text, World } from "../support/world";

describe.each(kinds)("sending on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const pia = () => world.as("pia");
  const maren = () => world.as("maren");
  const add = (person: object, requestId = world.request()) =>
    world.do(useCases.addClient, pia(), { requestId, lastName: "", ...person });
  const send = (input: object) =>
    world.do(useCases.sendPacket, pia(), {
      requestId: world.request(),
      questionnaireIds: world.seeded.questionnaires,
      ...input,
    });
  const intake = () => world.seeded.questionnaires[0]!;

  it("adds somebody on the spot once, and shows first who may be here already", async () => {
    const requestId = world.request();
    const made = await Promise.all(
      [1, 2].map(() =>
        add({ firstName: "Wren", lastName: "Ashby", phone: "020 7946 0999", birthDate: "1988-02-29" }, requestId),
      ),
    );
    expect(made.map((m) => must(m).id)).toEqual([requestId, requestId]);
    expect(await add({ firstName: "Wren" })).toMatchObject({
      error: { reason: "invalid", fields: { email: expect.stringContaining("e-mail address or a phone") as unknown } },
    });
    expect(await add({ firstName: "W", email: "wren@" })).toMatchObject({ error: { reason: "invalid" } });
    expect(await add({ firstName: "Wrenn", lastName: "Ashby", email: "w@mail.example" })).toMatchObject({
      error: { reason: "likely-here", people: [{ id: requestId, why: ["name"] }] },
    });
    const other = must(await add({ firstName: "Wrenn", lastName: "Ashby", email: "w@mail.example", anyway: true })).id;
    expect(other).not.toBe(requestId);
    const chart = must(await world.do(useCases.chartView, maren(), { clientId: requestId }));
    expect(chart).toMatchObject({ name: "Wren Ashby", age: 38 });
    expect(chart.postings).toMatchObject([{ kind: "start", by: "Pia Lindqvist", entries: 4 }]);

    // Without a visit, from whoever sends it.
    const { packetId } = must(
      await send({ clientId: requestId, questionnaireIds: [intake()], line: "See you soon {{link}}" }),
    );
    const [letter] = await world.letters(packetId, "packet");
    expect(letter).toMatchObject({ channel: "text", toName: "Wren Ashby" });
    expect(letter!.body).toContain("See you soon {{link}}");
    expect(letter!.body.match(/\/p\//g)).toHaveLength(1);
    expect(await send({ clientId: world.request() })).toMatchObject({ error: { reason: "not-found" } });
    expect(await send({})).toMatchObject({ error: { reason: "not-found" } });
  });

  it("gives somebody without a contact one, and never changes one that is there", async () => {
    const otto = world.seeded.clients["otto"]!;
    expect(await send({ clientId: otto })).toMatchObject({ error: { reason: "no-contact" } });
    must(await world.do(useCases.addContact, pia(), { clientId: otto, email: "otto@mail.example", phone: "" }));
    expect(
      await world.do(useCases.addContact, pia(), { clientId: otto, email: "elsewhere@mail.example" }),
    ).toMatchObject({ error: { reason: "has-contact" } });
    must(await send({ clientId: otto }));
  });

  it("speaks the language that was chosen: the letter, the door, the page, and what is signed", async () => {
    const { packetId } = must(
      await send({
        visitId: world.seeded.visits["cosmo"],
        language: "fr",
        expiresOn: "2026-12-01",
        dueOn: "2026-11-29",
      }),
    );
    const [letter] = await world.letters(packetId, "packet");
    expect(letter!.subject).toBe("Avant votre visite chez Fernhollow Care Rooms");
    expect(letter!.body).toMatch(/mercredi 25 novembre/);
    expect(letter!.body).toContain("jusqu’au 1 décembre");
    const token = await world.tokenOf(packetId);
    expect(must(await world.do(useCases.openLink, world.stranger, { token })).language).toBe("fr");
    must(await world.do(useCases.sendCode, world.stranger, { token, language: "es" }));
    expect((await world.letters(packetId, "code"))[0]!.body).toContain("su código es");
    const { passToken } = must(
      await world.do(useCases.checkCode, world.stranger, { token, code: await world.codeOf(packetId), language: "es" }),
    );
    const actor = await clientActor(world.app, packetId, passToken, { address: "192.0.2.7", device: "test" });
    if (actor.kind !== "client") throw new Error("not let in");
    const view = must(await world.do(useCases.fillView, actor, {}));
    expect(view).toMatchObject({ language: "es", dueOn: "2026-11-29" });
    expect(view.parts[0]!.questionnaire.language).toBe("es");
    must(await world.do(useCases.chooseLanguage, actor, { language: "ar" }));
    expect(must(await world.do(useCases.fillView, actor, {})).language).toBe("ar");
    expect(await world.do(useCases.chooseLanguage, actor, { language: '"><' })).toMatchObject({
      error: { reason: "invalid" },
    });
    must(
      await world.do(useCases.saveAnswers, actor, {
        partId: view.parts[0]!.id,
        changes: [{ kind: "values", key: "main-concern", values: text("أنام قليلاً") }],
      }),
    );
    const paper = await renderOwnPaper(must(await world.do(useCases.clientPaper, actor, {})));
    // Words without lam-alef: poppler turns the two letters of that ligature around.
    for (const words of ["Cosmo Rinaldi", "أنام", "نوفمبر"])
      expect(textByPoppler(paper).normalize("NFKC")).toContain(words);
    for (const expiresOn of ["2026-11-24", "2028-01-01", "soon"])
      expect(await send({ visitId: world.seeded.visits["cosmo"], expiresOn })).toMatchObject({
        error: { reason: "invalid", fields: { expiresOn: expect.stringContaining("within a year") as unknown } },
      });
    const otherPacket = must(await send({ visitId: world.seeded.visits["cosmo"] })).packetId;
    expect(must(await world.do(useCases.packetJourney, pia(), { packetId: otherPacket })).language).toBe("en");
  });

  it("begins with what is on file, which waits to be said right, and leaves the chart as it is when it was", async () => {
    const options = must(
      await world.do(useCases.sendOptions, pia(), { visitId: world.seeded.visits["ines"] }),
    ).questionnaires;
    expect(options.map((q) => q.onFile > 0)).toEqual([true, false, false]);
    const { packetId } = must(
      await send({ visitId: world.seeded.visits["ines"], questionnaireIds: [intake()], prefillIds: [intake()] }),
    );
    const actor = await world.enter(packetId);
    const [part] = must(await world.do(useCases.fillView, actor, {})).parts;
    expect(part!.answers.values["first-name"]).toEqual(text("Ines"));
    expect(part!.prefilled).toContain("first-name");
    expect(part!.prefilled).toHaveLength(options[0]!.onFile);
    must(
      await world.do(useCases.saveAnswers, actor, {
        partId: part!.id,
        changes: part!.prefilled.slice(0, 3).map((key) => ({ kind: "values", key, values: part!.answers.values[key] })),
      }),
    );
    expect(must(await world.do(useCases.fillView, actor, {})).parts[0]!.prefilled).toEqual(part!.prefilled.slice(3));
    await world.fillAs(actor, {
      AdultIntake: {
        values: {
          "has-conditions": true,
          "has-medicines": true,
          "has-allergies": true,
          "had-operations": false,
          "main-concern": "Sleeps badly since moving house",
        },
      },
    });
    must(await world.do(useCases.returnPacket, actor, { comment: "I come by bike." }));
    expect(must(await world.do(useCases.returnView, maren(), { packetId })).comment).toBe("I come by bike.");
    expect(
      must(await world.do(useCases.reconcileView, maren(), { packetId })).lines.filter((l) => l.status === "differs"),
    ).toEqual([]);
  });

  it("reminds at most once a day unless that is meant, and both links work; extends; withdraws for good", async () => {
    const { packetId } = must(await send({ visitId: world.seeded.visits["tamsin"] }));
    const nudge = (more: object = {}) =>
      world.do(useCases.nudge, pia(), { packetId, requestId: world.request(), ...more });
    const first = await world.tokenOf(packetId);
    expect(await nudge()).toMatchObject({ error: { reason: "too-soon" } });
    world.wait(25 * 60);
    const requestId = world.request();
    const both = await Promise.all([1, 2].map(() => nudge({ requestId })));
    expect(both.every((r) => r.ok)).toBe(true);
    expect(await world.letters(packetId, "nudge")).toHaveLength(1);
    expect(await nudge()).toMatchObject({ error: { reason: "too-soon" } });
    must(await nudge({ confirmed: true }));
    const second = /\/p\/([\w-]+)/.exec((await world.letters(packetId, "nudge"))[0]!.body)![1]!;
    for (const token of [first, second]) must(await world.do(useCases.openLink, world.stranger, { token }));
    must(await world.do(useCases.extend, pia(), { packetId, expiresOn: "2026-12-31" }));
    world.wait(30 * 24 * 60);
    must(await world.do(useCases.openLink, world.stranger, { token: first }));
    world.wait(10 * 24 * 60);
    expect(await world.do(useCases.openLink, world.stranger, { token: first })).toMatchObject({
      error: { reason: "closed" },
    });
    must(await world.do(useCases.extend, pia(), { packetId, expiresOn: "2027-01-31" }));
    must(await world.do(useCases.openLink, world.stranger, { token: first }));
    for (let index = 0; index < 2; index++) must(await world.do(useCases.withdraw, pia(), { packetId }));
    expect(await world.do(useCases.openLink, world.stranger, { token: second })).toMatchObject({
      error: { reason: "closed" },
    });
    expect(await world.do(useCases.extend, pia(), { packetId, expiresOn: "2027-01-31" })).toMatchObject({
      error: { reason: "closed" },
    });
    expect(await nudge({ confirmed: true })).toMatchObject({ error: { reason: "closed" } });
    expect(await world.do(useCases.reissueLink, pia(), { packetId, requestId: world.request() })).toMatchObject({
      error: { reason: "closed" },
    });
    expect(must(await world.do(useCases.packetJourney, pia(), { packetId })).steps.map((s) => s.action)).toEqual(
      expect.arrayContaining(["packet.send", "packet.nudge", "packet.extend", "packet.withdraw"]),
    );
  });

  it("sends a test to whoever asks for it, and nothing to the client", async () => {
    const before = await world.repo.packets.ofClient((await world.app.practice())!.id, world.seeded.clients["bram"]!);
    expect(
      must(
        await world.do(useCases.sendTest, pia(), {
          clientId: world.seeded.clients["bram"],
          questionnaireIds: [intake()],
          language: "es",
        }),
      ).to,
    ).toBe("pia@fernhollow.example");
    const [letter] = await world.repo.outbox.latest((await world.app.practice())!.id, 1);
    expect(letter).toMatchObject({ to: "pia@fernhollow.example", packetId: null });
    expect(letter!.body).toContain(`/library/${intake()}/rehearse?in=es`);
    // Word for word what the client would get, but for the name and the link.
    const target = { visitId: world.seeded.visits["hugo"], line: "Bring your glasses." };
    must(await world.do(useCases.sendTest, pia(), { ...target, questionnaireIds: [intake()] }));
    const [test] = await world.repo.outbox.latest((await world.app.practice())!.id, 1);
    const real = must(await world.do(useCases.previewLetter, pia(), target));
    expect(test!.body.replace(/https?:\S+/, "LINK").replace("Hello Pia Lindqvist", "Hello Hugo")).toBe(
      real.body.replace(/https?:\S+/, "LINK"),
    );
    // What begins with the chart asks for a code whatever was chosen: the test says so too.
    const begun = { ...target, door: "none", holdsChart: true };
    must(await world.do(useCases.sendTest, pia(), { ...begun, questionnaireIds: [intake()] }));
    const [second] = await world.repo.outbox.latest((await world.app.practice())!.id, 1);
    for (const { body } of [second!, must(await world.do(useCases.previewLetter, pia(), begun))])
      expect(body).toContain("We will send you a code by e-mail first");
    // A wording can be looked at with somebody's details also where the link alone opens the door.
    const policy = { ifMissing: "read-out", details: "last-name", hours: 12 };
    must(await world.do(useCases.saveDoorPolicy, pia(), { ...policy, way: "none" }));
    const values = must(await world.do(useCases.wordingValues, pia(), { visitId: world.seeded.visits["hugo"] }));
    expect([values["client.firstName"], values.door]).toEqual(["Hugo", ""]);
    must(await world.do(useCases.saveDoorPolicy, pia(), { ...policy, way: "contact" }));
    expect(await world.repo.packets.ofClient((await world.app.practice())!.id, world.seeded.clients["bram"]!)).toEqual(
      before,
    );
  });

  it("sends answers back with a reason: only those are open again, and the practitioner hears at once of what is alarming", async () => {
    const id = must(await send({ visitId: world.seeded.visits["hugo"] })).packetId;
    await world.fill(id);
    expect(
      (await world.repo.outbox.latest((await world.app.practice())!.id, 5)).filter(
        (m) => m.packetId === id && m.purpose === "alert",
      ),
    ).toMatchObject([{ to: "maren@fernhollow.example", subject: "A return to read first" }]);
    const view = must(await world.do(useCases.returnView, maren(), { packetId: id }));
    const [first, , measure] = view.parts;
    const lines = [{ partId: first!.partId, key: "main-concern", reason: "Since when?" }];
    const requestId = world.request();
    const back = (input: object) => world.do(useCases.sendBack, maren(), { packetId: id, requestId, lines, ...input });
    expect(await back({ requestId: world.request(), lines: [{ ...lines[0], key: "nowhere" }] })).toMatchObject({
      error: { reason: "no-such-answer" },
    });
    expect(await back({ requestId: world.request(), lines: [{ ...lines[0], reason: " " }] })).toMatchObject({
      error: { reason: "invalid" },
    });
    expect(await world.do(useCases.sendBack, pia(), { packetId: id, requestId, lines })).toMatchObject({
      error: { reason: "not-allowed" },
    });
    const pressed = await Promise.all([back({}), back({})]);
    expect(pressed.every((r) => r.ok)).toBe(true);
    // With the client again, it stands among what is sent back, and says nothing of what they are mending.
    expect(
      must(await world.do(useCases.returns, maren(), {})).lines.find(({ packetId }) => packetId === id),
    ).toMatchObject({ state: "sent-back", scores: [], alerts: [] });
    const [letter] = await world.letters(id, "sent-back");
    expect(letter!.body).not.toContain("Since when");
    const token = /\/p\/([\w-]+)/.exec(letter!.body)![1]!;
    must(await world.do(useCases.sendCode, world.stranger, { token }));
    const { passToken } = must(
      await world.do(useCases.checkCode, world.stranger, { token, code: await world.codeOf(id) }),
    );
    const actor = await clientActor(world.app, id, passToken, { address: "192.0.2.7", device: "test" });
    if (actor.kind !== "client") throw new Error("not let in");
    expect(must(await world.do(useCases.fillView, actor, {})).sentBack).toEqual(lines);
    const save = (partId: Id<"Part">, key: string, value: string) =>
      world.do(useCases.saveAnswers, actor, { partId, changes: [{ kind: "values", key, values: text(value) }] });
    expect(await save(first!.partId, "first-name", "Mallory")).toMatchObject({ error: { reason: "invalid" } });
    expect(await save(measure!.partId, "main-concern", "x")).toMatchObject({ ok: false });
    must(await save(first!.partId, "main-concern", "Since the spring"));
    must(await world.do(useCases.returnPacket, actor, {}));
    expect(
      must(await world.do(useCases.returnView, maren(), { packetId: id })).parts[0]!.lines.find(
        (l) => l.key === "main-concern",
      )!.answer,
    ).toBe("Since the spring");
    expect(await save(first!.partId, "main-concern", "late")).toMatchObject({ error: { reason: "closed" } });
  });

  it("says it in the practice's own words, which are refused without their link or with what is not known then", async () => {
    const save = (input: object) =>
      world.do(useCases.saveWording, pia(), {
        kind: "packet",
        way: "text",
        language: "en",
        subject: "",
        body: "Hi {{recipient.firstName}}: {{link}}",
        ...input,
      });
    expect(await save({ body: "Hi there" })).toMatchObject({
      error: { reason: "invalid", fields: { body: expect.stringContaining("{{link}}") as unknown } },
    });
    expect(await save({ body: "{{link}} {{visit.when}}" })).toMatchObject({
      error: {
        reason: "invalid",
        fields: { body: expect.stringContaining("{{visit.when}} is not known here") as unknown },
      },
    });
    expect(await save({ kind: "packetForVisit", way: "email", body: "{{link}}", subject: " " })).toMatchObject({
      error: { reason: "invalid", fields: { subject: expect.stringContaining("needs a subject") as unknown } },
    });
    expect(await save({ kind: "code", body: "Come in" })).toMatchObject({
      error: { reason: "invalid", fields: { body: expect.stringContaining("{{code}}") as unknown } },
    });
    expect(
      await world.do(useCases.saveWording, world.as("salma"), {
        kind: "packet",
        way: "text",
        language: "en",
        body: "{{link}}",
      }),
    ).toMatchObject({ error: { reason: "not-allowed" } });
    must(await save({}));
    const edda = { clientId: world.seeded.clients["edda"] };
    const seen = must(await world.do(useCases.previewLetter, pia(), edda));
    expect(seen).toMatchObject({ channel: "text", subject: "" });
    const [letter] = await world.letters(must(await send(edda)).packetId, "packet");
    // What was seen before is what is sent, but for the link, which is as long.
    expect([letter!.body.replace(/\/p\/.*/, ""), letter!.body.length]).toEqual([
      seen.body.replace(/\/p\/.*/, ""),
      seen.body.length,
    ]);
    expect(letter!.body).toMatch(/^Hi Edda: http/);
    must(await world.do(useCases.resetWording, pia(), { kind: "packet", way: "text", language: "en" }));
    expect(must(await world.do(useCases.previewLetter, pia(), edda)).body).toContain("please answer some questions");
    expect(must(await world.do(useCases.wordings, pia(), {}))).toHaveLength(8 * 4 * 2);
  });

  it("opens the door as the practice or the packet says, and never by less where a contact is missing", async () => {
    const policy = { way: "text", ifMissing: "read-out", details: "postcode", hours: 2 };
    expect(await world.do(useCases.saveDoorPolicy, pia(), { ...policy, ifMissing: "none" })).toMatchObject({
      error: { reason: "invalid" },
    });
    expect(await world.do(useCases.saveDoorPolicy, world.as("salma"), policy)).toMatchObject({
      error: { reason: "not-allowed" },
    });
    must(await world.do(useCases.saveDoorPolicy, pia(), policy));
    const at = async (input: object) => {
      const { packetId } = must(await send(input));
      return { packetId, token: await world.tokenOf(packetId) };
    };
    const look = async (token: string) => must(await world.do(useCases.openLink, world.stranger, { token }));

    // The letter went by e-mail; the code goes to the phone.
    const ines = await at({ visitId: world.seeded.visits["ines"] });
    expect(await look(ines.token)).toMatchObject({ way: "code", channel: "text", masked: "···314" });
    must(await world.do(useCases.sendCode, world.stranger, { token: ines.token }));
    expect((await world.letters(ines.packetId, "code"))[0]).toMatchObject({ channel: "text", to: "020 7946 0314" });
    const { expiresAt } = must(
      await world.do(useCases.checkCode, world.stranger, {
        token: ines.token,
        code: await world.codeOf(ines.packetId),
      }),
    );
    expect(Date.parse(expiresAt) - Date.parse(world.time)).toBe(2 * 3_600_000);

    // No phone on file: a code is read out, and none is sent.
    const noPhone = must(await add({ firstName: "Fern", lastName: "Quill", email: "fern@mail.example" })).id;
    const fern = await at({ clientId: noPhone });
    expect(await look(fern.token)).toMatchObject({ way: "read-out", channel: undefined, masked: "" });
    expect(await world.do(useCases.sendCode, world.stranger, { token: fern.token })).toMatchObject({
      error: { reason: "closed" },
    });
    const { code } = must(await world.do(useCases.readOutCode, pia(), { packetId: fern.packetId }));
    expect(await world.do(useCases.readOutCode, world.stranger, { packetId: fern.packetId })).toMatchObject({
      error: { reason: "not-allowed" },
    });
    must(await world.do(useCases.checkCode, world.stranger, { token: fern.token, code }));
    expect(await world.do(useCases.checkCode, world.stranger, { token: fern.token, code })).toMatchObject({
      error: { reason: "code-expired" },
    });

    // Details that are not on file are not asked, where a true answer would count as a wrong one: a code is read out.
    const details = await at({ visitId: world.seeded.visits["hugo"], door: "details" });
    expect(await look(details.token)).toMatchObject({ way: "read-out", details: undefined });
    must(await world.do(useCases.saveDoorPolicy, pia(), { ...policy, details: "last-name" }));
    expect(await look(details.token)).toMatchObject({ way: "details", details: "last-name" });
    // Five wrong ones lock the page as wrong codes do; an empty chart matches nothing.
    const tell = (token: string, birthDate: string, word: string) =>
      world.do(useCases.checkDetails, world.stranger, { token, birthDate, word });
    expect(await tell(details.token, "1980-03-14", "Lindgrén ")).toMatchObject({ ok: true });
    expect(await tell(fern.token, "", "Quill")).toMatchObject({ error: { reason: "closed" } });
    const empty = await at({ clientId: noPhone, door: "details" });
    expect(await look(empty.token)).toMatchObject({ way: "read-out" });
    expect(await tell(empty.token, "", "Quill")).toMatchObject({ error: { reason: "closed" } });
    const guessed = await at({ visitId: world.seeded.visits["hugo"], door: "details" });
    for (const left of [4, 3, 2, 1])
      expect(await tell(guessed.token, "1990-01-01", "Lindgren")).toMatchObject({
        error: { reason: "wrong-code", left },
      });
    expect(await tell(guessed.token, "1990-01-01", "Lindgren")).toMatchObject({ error: { reason: "locked" } });
    expect(await world.do(useCases.readOutCode, pia(), { packetId: guessed.packetId })).toMatchObject({
      error: { reason: "closed" },
    });

    // None: chosen for one packet, journalled, and no way into another.
    const open = await at({ visitId: world.seeded.visits["tamsin"], door: "none" });
    must(await world.do(useCases.openFreely, world.stranger, { token: open.token }));
    expect(await world.journal(`packet:${open.packetId}`)).toEqual(
      expect.arrayContaining(["door.none", "door.passed"]),
    );
    // Begun with what is on file, it asks for a code all the same.
    const begun = await at({
      visitId: world.seeded.visits["tamsin"],
      questionnaireIds: [intake()],
      prefillIds: [intake()],
      door: "none",
    });
    expect(await look(begun.token)).toMatchObject({ way: "code" });
    for (const { token } of [ines, fern, details, begun])
      expect(await world.do(useCases.openFreely, world.stranger, { token })).toMatchObject({
        error: { reason: "closed" },
      });
    must(
      await world.do(useCases.saveDoorPolicy, pia(), {
        way: "contact",
        ifMissing: "read-out",
        details: "last-name",
        hours: 12,
      }),
    );
  });

  it("is handed over on a device of the practice to who stands there: without a code, for a short while, and what is signed says so", async () => {
    const { id } = must(await add({ firstName: "Wren", lastName: "Abara", anyway: true, email: "wren@mail.example" }));
    // No letter goes out, and nobody has a link.
    const { packetId } = must(await send({ clientId: id, questionnaireIds: world.seeded.questionnaires, by: "link" }));
    for (const who of [
      world.stranger,
      await world.enter(must(await send({ visitId: world.seeded.visits["ines"] })).packetId),
    ])
      expect(await world.do(useCases.handOver, who, { packetId })).toMatchObject({ error: { reason: "not-allowed" } });
    const handed = must(await world.do(useCases.handOver, maren(), { packetId }));
    expect(Date.parse(handed.expiresAt) - Date.parse(world.time)).toBe(2 * 3_600_000);
    const from = { address: "192.0.2.9", device: "tablet" };
    const behind = async () => clientActor(world.app, packetId, handed.passToken, from);
    const client = await behind();
    if (client.kind !== "client") throw new Error("The pass opens nothing.");
    const view = must(await world.do(useCases.fillView, client, {}));
    expect([view.handedOver, view.person, view.state]).toEqual([true, "Wren Abara", "opened"]);
    await world.fillAs(client, {
      AdultIntake: hugoIntake,
      ConsentToCare: consentYes,
      PHQ9: phq9([0, 0, 0, 0, 0, 0, 0, 0, 0], "Not difficult at all"),
    });
    must(await world.sign(client, { partId: view.parts[1]!.id, name: "Wren Abara", path: "" }));
    expect((await world.repo.signatures.ofPart(view.parts[1]!.id))[0]!.device).toBe(
      "the practice’s own device, handed over by Maren Holloway; tablet",
    );
    // It opens no other packet of theirs, where a door check would.
    const other = await world.tokenOf(must(await send({ clientId: id })).packetId);
    must(
      await world.do(useCases.saveDoorPolicy, pia(), {
        way: "contact",
        ifMissing: "read-out",
        details: "last-name",
        hours: 12,
        others: true,
      }),
    );
    expect(await world.do(useCases.openKnown, world.stranger, { token: other, known: handed.passToken })).toMatchObject(
      { error: { reason: "closed" } },
    );
    must(
      await world.do(useCases.saveDoorPolicy, pia(), {
        way: "contact",
        ifMissing: "read-out",
        details: "last-name",
        hours: 12,
      }),
    );
    const paper = () => world.do(useCases.clientPaper, client, {});
    expect(must(await paper()).person).toBe("Wren Abara");
    must(await world.do(useCases.returnPacket, client, {}));
    // It lies there for the next one: its pass ended with the return.
    expect(await paper()).toMatchObject({ error: { reason: "not-found" } });
    expect((await behind()).kind).toBe("stranger");
    expect(await world.do(useCases.clientPaper, await behind(), {})).toMatchObject({
      error: { reason: "not-allowed" },
    });
    expect(await world.journal(`packet:${packetId}`)).toEqual(
      expect.arrayContaining(["door.handed-over", "packet.return"]),
    );
    expect(await world.do(useCases.handOver, maren(), { packetId })).toMatchObject({ error: { reason: "closed" } });
    // Who came in by a door of their own has nothing to give back.
    const own = await world.enter(must(await send({ visitId: world.seeded.visits["cosmo"] })).packetId);
    expect(await world.do(useCases.giveBack, own, {})).toMatchObject({ error: { reason: "not-found" } });
  });
  it("shows nothing that was there before on what is opened by who may not see answers: handed over, by a code read out, or by a link they copied", async () => {
    const { packetId } = must(
      await send({
        visitId: world.seeded.visits["ines"],
        questionnaireIds: world.seeded.questionnaires,
        line: "Bring it along",
      }),
    );
    const client = await world.enter(packetId);
    const first = must(await world.do(useCases.fillView, client, {})).parts[0]!;
    const text = (value: string) => [{ type: "string" as const, value }];
    const save = async (actor: typeof client, values: Record<string, string>) =>
      must(
        await world.do(useCases.saveAnswers, actor, {
          partId: first.id,
          changes: Object.entries(values).map(([key, value]) => ({
            kind: "values",
            key,
            values: text(value),
            base: 0,
          })),
        }),
      );
    await save(client, { occupation: "Typed at home" });
    const seen = async (actor: typeof client) => {
      const { parts, personalLine } = must(await world.do(useCases.fillView, actor, {}));
      const changes = must(await world.do(useCases.changesSince, actor, { since: -1 }));
      const paper = must(await world.do(useCases.clientPaper, actor, {}));
      return JSON.stringify([
        personalLine,
        parts.map((p) => [p.answers, p.kept, p.prefilled]),
        changes.parts.map((p) => p.kept),
        paper.parts.map((p) => p.lines.map((l) => l.answer)),
      ]);
    };
    const from = { address: "192.0.2.9", device: "tablet" };
    const handed = async (who: "pia" | "maren") => {
      const { passToken } = must(await world.do(useCases.handOver, world.as(who), { packetId }));
      const actor = await clientActor(world.app, packetId, passToken, from);
      if (actor.kind !== "client") throw new Error("The pass opens nothing.");
      return actor;
    };
    expect(await seen(await handed("maren"))).toMatch(/Bring it along[^]*Typed at home/);
    const here = await handed("pia");
    expect(await seen(here)).not.toMatch(/Bring it along|Typed at home|Halvorsen|\d{4}-\d\d/);
    expect(must(await world.do(useCases.fillView, here, {})).anew).toBe(true);
    expect(must(await world.do(useCases.fillView, client, {})).anew).toBe(false);
    // What another device saved does not come back when this one writes over it, and what is typed here is seen here.
    expect((await save(here, { occupation: "Typed here" })).clashes).toEqual([]);
    expect(await seen(here)).toContain("Typed here");
    const token = await world.tokenOf(packetId);
    const readOut = async (who: "pia" | "maren") => {
      const { code } = must(await world.do(useCases.readOutCode, world.as(who), { packetId }));
      const { passToken } = must(await world.do(useCases.checkCode, world.stranger, { token, code }));
      const actor = await clientActor(world.app, packetId, passToken, from);
      if (actor.kind !== "client") throw new Error("The pass opens nothing.");
      return actor;
    };
    expect(await seen(await readOut("pia"))).not.toContain("Typed");
    expect(await seen(await readOut("maren"))).toContain("Typed here");
    // A link that was copied where the door takes what the office knows too.
    await world.app.database.db.execute(sql`update packet set door = 'none' where id = ${packetId}`);
    const { link } = must(
      await world.do(useCases.giveLink, world.as("pia"), {
        packetId,
        requestId: world.request(),
        relationId: null,
        by: "copy",
      }),
    );
    const { passToken } = must(
      await world.do(useCases.openFreely, world.stranger, { token: /\/p\/([\w-]+)/.exec(link!)![1]! }),
    );
    const copied = await clientActor(world.app, packetId, passToken, from);
    if (copied.kind !== "client") throw new Error("The pass opens nothing.");
    expect(await seen(copied)).not.toContain("Typed");
    // The practitioner sees that it was done, and how.
    const { steps } = must(await world.do(useCases.packetJourney, world.as("maren"), { packetId }));
    for (const action of ["door.handed-over", "door.read-out", "packet.link"])
      expect(steps.map((s) => s.action)).toContain(action);
  });
  it("goes back to who cannot be reached without a letter, once, and is open again on a device that is handed over", async () => {
    const { id } = must(await add({ firstName: "Teal", lastName: "Okoro", anyway: true, phone: "+44 7700 900654" }));
    const practiceId = (await world.app.practice())!.id;
    const { packetId } = must(await send({ clientId: id, questionnaireIds: world.seeded.questionnaires, by: "link" }));
    const hand = async () => {
      const actor = await clientActor(
        world.app,
        packetId,
        must(await world.do(useCases.handOver, maren(), { packetId })).passToken,
        { address: "192.0.2.9", device: "tablet" },
      );
      if (actor.kind !== "client") throw new Error("The pass opens nothing.");
      return actor;
    };
    const first = await hand();
    await world.fillAs(first, {
      AdultIntake: hugoIntake,
      ConsentToCare: consentYes,
      PHQ9: phq9([0, 0, 0, 0, 0, 0, 0, 0, 0], "Not difficult at all"),
    });
    must(
      await world.sign(first, {
        partId: must(await world.do(useCases.fillView, first, {})).parts[1]!.id,
        name: "Teal Okoro",
        path: "",
      }),
    );
    must(await world.do(useCases.returnPacket, first, {}));
    must(await world.do(useCases.giveBack, first, {}));
    expect(must(await world.do(useCases.returnView, maren(), { packetId })).reachable).toBe(true);
    // Their only number is gone by now.
    await world.repo.clients.setIdentity(id, { firstName: "Teal", lastName: "Okoro" });
    const view = must(await world.do(useCases.returnView, maren(), { packetId }));
    expect(view.reachable).toBe(false);
    const lines = [{ partId: view.parts[0]!.partId, key: "main-concern", reason: "Since when?" }];
    const requestId = world.request();
    const before = (await world.repo.outbox.latest(practiceId, 1000)).length;
    const pressed = await Promise.all(
      [0, 1].map(() => world.do(useCases.sendBack, maren(), { packetId, requestId, lines })),
    );
    expect(pressed.every((r) => r.ok)).toBe(true);
    expect((await world.repo.outbox.latest(practiceId, 1000)).length).toBe(before);
    expect((await world.journal(`packet:${packetId}`)).filter((a) => a.startsWith("packet.send-back")).sort()).toEqual([
      "packet.send-back",
      "packet.send-back-repeated",
    ]);
    expect(
      must(await world.do(useCases.packetJourney, maren(), { packetId })).people.filter((p) => p.live),
    ).toMatchObject([{ name: "Teal Okoro", role: "fills" }]);
    const again = await hand();
    expect(must(await world.do(useCases.fillView, again, {})).sentBack).toEqual(lines);
    must(
      await world.do(useCases.saveAnswers, again, {
        partId: lines[0]!.partId,
        changes: [{ kind: "values", key: "main-concern", values: text("Since the spring") }],
      }),
    );
    must(await world.do(useCases.returnPacket, again, {}));
    expect(
      must(await world.do(useCases.returnView, maren(), { packetId })).parts[0]!.lines.find(
        (l) => l.key === "main-concern",
      )!.answer,
    ).toBe("Since the spring");
  });

  it("follows where a client and those around them are reached: a code that went the old way opens nothing, the second to change it is told, and who is no longer around is closed out", async () => {
    const noor = world.seeded.clients["noor"]!;
    const { packetId } = must(await send({ visitId: world.seeded.visits["noor"] }));
    const view = async () => must(await world.do(useCases.reachView, pia(), { clientId: noor }));
    const {
      around: [leila],
      through,
      own,
    } = await view();
    expect([through, own.email, leila!.kind]).toEqual(["Leila Vance", "", "guardian"]);
    const token = await world.tokenOf(packetId);
    must(await world.do(useCases.sendCode, world.stranger, { token }));
    const old = await world.codeOf(packetId);
    const change = (who: typeof pia, email: string, seen: string) =>
      world.do(useCases.changeRelation, who(), {
        clientId: noor,
        relationId: leila!.id,
        firstName: "Leila",
        lastName: "Vance",
        kind: "guardian",
        email,
        phone: leila!.phone,
        prefers: "email",
        seen,
      });
    must(await change(pia, "leila@mail.example", leila!.seen));
    expect(await change(maren, "other@mail.example", leila!.seen)).toMatchObject({ error: { reason: "changed" } });
    // The same again, of a lost reply, is no quarrel.
    must(await change(pia, "leila@mail.example", leila!.seen));
    expect((await world.do(useCases.checkCode, world.stranger, { token, code: old })).ok).toBe(false);
    world.wait(2);
    must(await world.do(useCases.sendCode, world.stranger, { token }));
    const [letter] = await world.letters(packetId, "code");
    expect(letter!.to).toBe("leila@mail.example");
    const { passToken } = must(
      await world.do(useCases.checkCode, world.stranger, { token, code: await world.codeOf(packetId) }),
    );
    expect((await clientActor(world.app, packetId, passToken, { address: "", device: "" })).kind).toBe("client");

    for (const who of [
      world.stranger,
      await world.enter(must(await send({ clientId: world.seeded.clients["hugo"] })).packetId),
    ])
      expect(await world.do(useCases.endRelation, who, { clientId: noor, relationId: leila!.id })).toMatchObject({
        error: { reason: "not-allowed" },
      });
    expect(
      await world.do(useCases.endRelation, pia(), { clientId: world.seeded.clients["bram"], relationId: leila!.id }),
    ).toMatchObject({ error: { reason: "not-found" } });
    await world.repo.packets.update(packetId, { lockedAt: world.time });
    for (const link of await world.repo.links.live(
      (await world.repo.packets.byId((await world.app.practice())!.id, packetId))!,
    ))
      await world.repo.links.update(link.id, { lockedAt: world.time });
    for (let index = 0; index < 2; index++)
      must(await world.do(useCases.endRelation, pia(), { clientId: noor, relationId: leila!.id }));
    expect((await clientActor(world.app, packetId, passToken, { address: "", device: "" })).kind).toBe("stranger");
    expect(await world.do(useCases.openLink, world.stranger, { token })).toMatchObject({ error: { reason: "closed" } });
    const journey = must(await world.do(useCases.packetJourney, pia(), { packetId }));
    expect([journey.locked, journey.reached]).toEqual([false, []]);
    expect([journey.recipient.ended, journey.people.map((p) => [p.name, p.live, p.masked])]).toEqual([
      true,
      [["Leila Vance", false, undefined]],
    ]);
    expect(await view()).toMatchObject({ around: [], ended: [{ name: "Leila Vance" }], through: undefined });
    const options = must(await world.do(useCases.sendOptions, pia(), { clientId: noor }));
    expect([options.recipient.name, options.others]).toEqual(["Noor Vance", []]);
    expect(
      await world.do(useCases.nudge, pia(), { packetId, requestId: world.request(), confirmed: true }),
    ).toMatchObject({ error: { reason: "no-contact" } });
    expect(await change(pia, "x@mail.example", leila!.seen)).toMatchObject({ error: { reason: "not-found" } });
    // Nor by any other way in.
    for (const by of ["copy", "letter"])
      expect(
        await world.do(useCases.giveLink, pia(), {
          packetId,
          requestId: world.request(),
          relationId: leila!.id,
          role: "fills",
          by,
        }),
      ).toMatchObject({ error: { reason: "nobody-there" } });
    expect(
      await send({ clientId: noor, by: "link", people: [{ relationId: leila!.id, role: "fills" }] }),
    ).toMatchObject({ error: { reason: "nobody-there" } });
    expect(await world.do(useCases.handOver, pia(), { packetId })).toMatchObject({ error: { reason: "nobody-there" } });
    // A link that was made in the very moment she was closed out.
    await world.repo.links.add({
      id: world.app.ports.random.id<"Link">(),
      packetId,
      relationId: leila!.id,
      role: "fills",
      digest: world.app.ports.sealer.keyedDigest("link", "made-in-that-very-moment"),
      createdAt: world.time,
      messageId: null,
    });
    expect(await world.do(useCases.openLink, world.stranger, { token: "made-in-that-very-moment" })).toMatchObject({
      error: { reason: "closed" },
    });
  });

  it("keeps what a client says of their own address in the chart, with what stood there before", async () => {
    const bram = world.seeded.clients["bram"]!;
    const before = must(await world.do(useCases.reachView, pia(), { clientId: bram })).own;
    const change = (more: object) =>
      world.do(useCases.changeContact, pia(), { clientId: bram, ...before, language: "en", ...more });
    expect(await change({ email: "bram" })).toMatchObject({
      error: { reason: "invalid", fields: { email: expect.stringContaining("name@mail.example") as unknown } },
    });
    must(await change({ email: "bram.new@mail.example", language: "fr" }));
    // Nor is a language changed back unseen by a page that was opened before.
    for (const stale of [{ email: "bram.other@mail.example" }, { email: "bram.new@mail.example" }])
      expect(await change(stale)).toMatchObject({ error: { reason: "changed" } });
    const view = must(await world.do(useCases.reachView, pia(), { clientId: bram }));
    expect([view.own, view.language]).toMatchObject([
      { email: "bram.new@mail.example", phone: before.phone, prefers: before.prefers },
      "fr",
    ]);
    must(await change({ ...view.own, language: "fr", phone: "" }));
    // The same again, of a lost reply: nothing on file and nothing typed are one thing.
    must(await change({ ...view.own, language: "fr", phone: "" }));
    const chart = must(await world.do(useCases.chartView, maren(), { clientId: bram })).sections.flatMap(
      (s) => s.fields,
    );
    const values = (key: string) =>
      chart.flatMap((f) =>
        "state" in f && f.field.key === key
          ? (f.state?.history ?? []).map((h) => [h.value, h.source.kind === "staff" ? h.source.reason : ""])
          : [],
      );
    expect(values("email")).toEqual(
      expect.arrayContaining([
        ["bram.new@mail.example", "Told us"],
        [before.email, expect.any(String)],
      ]),
    );
    expect(values("phone")).toEqual(
      expect.arrayContaining([
        ["", "Told us"],
        [before.phone, expect.any(String)],
      ]),
    );
    expect(must(await world.do(useCases.people, pia(), {})).lines.find((p) => p.id === bram)!.reach).toBe("e-mail");
  });
});

import { parse } from "csv-parse/sync";
import { sql } from "drizzle-orm";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { phq9 } from "../../demo/answers";
import { must, walkThrough, type Filled } from "../../demo/walk";
import { writeQuestionnaire } from "../../src/core/fhir";
import { changeIn, cronbachAlpha, endsOf, isScored, mixedIn, type ScorePoint } from "../../src/core/measures";
import { updateItem, type Questionnaire, type ScoreRule } from "../../src/core/questionnaire";
import { instant, instantMs, type Id } from "../../src/core/shared";
import { escalateAlerts, runSchedules, useCases } from "../../src/server";
import { fhirProblems } from "../support/fhir";
import { kinds, World } from "../support/world";

const day = 24 * 60;
/** Nine items that add up to a total, the ninth at zero unless asked. */
const items = (total: number, ninth = 0): number[] => {
  const all = [0, 0, 0, 0, 0, 0, 0, 0, ninth];
  for (let left = total - ninth, index = 0; left > 0; index = (index + 1) % 8)
    if (all[index]! < 3) {
      all[index]!++;
      left--;
    }
  return all;
};
describe.each(kinds)("scores over time on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const maren = () => world.as("maren");
  const client = (who: string): Id<"Client"> => world.seeded.clients[who]!;
  const send = async (who: string, more: object = {}): Promise<Id<"Packet">> =>
    must(
      await world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        clientId: client(who),
        questionnaireIds: [world.seeded.questionnaires[2]],
        ...more,
      }),
    ).packetId;
  const answer = async (packetId: Id<"Packet">, total: number, ninth = 0): Promise<void> => {
    await walkThrough(world.app, packetId, { PHQ9: phq9(items(total, ninth), "Somewhat difficult") }, undefined, true);
  };
  const measured = async (who: string, total: number, ninth = 0): Promise<Id<"Packet">> => {
    const id = await send(who);
    world.wait(10);
    await answer(id, total, ninth);
    return id;
  };
  const view = async (who: string) => must(await world.do(useCases.measuresView, maren(), { clientId: client(who) }));
  const courseOf = async (who: string) => (await view(who)).courses[0];
  const courseIn = async (clientId: Id<"Client">) =>
    must(await world.do(useCases.measuresView, maren(), { clientId })).courses[0]?.points;
  const bring = (text: string, more: object = {}, as = maren()) =>
    world.do(useCases.bringScores, as, {
      requestId: world.request(),
      questionnaireId: world.seeded.questionnaires[2],
      linkId: "44261-6",
      text,
      dry: false,
      ...more,
    });

  it("are told as they came back, in their order, with what became of them", async () => {
    await measured("hugo", 17);
    world.wait(7 * day);
    await measured("hugo", 12);
    world.wait(7 * day);
    await measured("hugo", 8);
    const course = (await courseOf("hugo"))!;
    expect(course.title).toBe("PHQ-9 total");
    expect(course.points.map(({ value }) => value)).toEqual([17, 12, 8]);
    expect(changeIn(course)).toMatchObject({
      known: true,
      change: { state: "recovered", difference: -9, important: true },
    });
    const shown = await view("hugo");
    expect(shown.items[course.questionnaireId]).toHaveLength(9);
    expect(shown.items[course.questionnaireId]![0]!.numbers.map(({ number }) => number)).toEqual([3, 2, 1]);
    expect(await world.journal(`client:${client("hugo")}`)).toContain("measures.view");
  });

  it("stay true whatever happens to returns: what was kept is what is made anew, after any course of events", async () => {
    const people = ["ines", "priya", "hugo"] as const;
    const held: Partial<Record<string, Id<"Packet">>> = {};
    const practiceId = (await world.app.practice())!.id;
    const kept = async (): Promise<unknown> => {
      const all = await Promise.all(people.map(async (who) => (await courseOf(who))?.points ?? []));
      return all;
    };
    const step = fc.oneof(
      fc.record({ what: fc.constant("measure" as const), who: fc.constantFrom(...people), total: fc.nat(24) }),
      fc.record({ what: fc.constant("send-back" as const), who: fc.constantFrom(...people), total: fc.nat(24) }),
      fc.record({ what: fc.constant("bring" as const), who: fc.constantFrom(...people), total: fc.nat(27) }),
      fc.record({ what: fc.constant("look" as const), who: fc.constantFrom(...people), total: fc.constant(0) }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 2, maxLength: 6 }), async (steps) => {
        for (const { what, who, total } of steps) {
          world.wait(60);
          if (what === "measure") held[who] = await measured(who, total);
          else if (what === "look") await view(who);
          else if (what === "bring") {
            const { email } = (await world.repo.clients.byId(practiceId, client(who)))!;
            if (email) must(await bring(`E-mail,Date,Score\n${email},2026-01-02,${total}\n`));
          } else if (held[who]) {
            const packetId = held[who]!;
            const partId = (await world.repo.packets.parts(packetId))[0]!.id;
            const lines = [{ partId, key: "44250-9", reason: "Is that right?" }];
            must(await world.do(useCases.sendBack, maren(), { packetId, requestId: world.request(), lines }));
            delete held[who];
          }
        }
        const before = await kept();
        // What lists of everybody open is of the same points.
        for (const { clientId, made } of await world.repo.courses.ends(practiceId, people.map(client)))
          expect(made).toEqual(endsOf((await courseIn(clientId)) ?? []));
        await world.app.database.db.execute(sql`update course set made_of = null, sealed = null`);
        expect(await kept()).toEqual(before);
      }),
      { numRuns: 6 },
    );
  });

  it("made from what has changed meanwhile are not kept as if they were true", async () => {
    const practiceId = (await world.app.practice())!.id;
    const [before] = await world.repo.courses.points(practiceId, [client("hugo")]);
    const stale: ScorePoint[] = [];
    await measured("hugo", 5);
    // Whoever read before that return keeps what they made of it afterwards.
    await world.repo.courses.keep([{ ...before!, points: stale }]);
    expect((await world.repo.courses.points(practiceId, [client("hugo")]))[0]!.made).toBeUndefined();
    expect((await courseOf("hugo"))!.points.at(-1)!.value).toBe(5);
  });

  it("go along when two records become one, come back when they are parted, and go when they are erased", async () => {
    const add = async (firstName: string) =>
      must(
        await world.do(useCases.addClient, maren(), {
          requestId: world.request(),
          firstName,
          lastName: "Tarn",
          email: `${firstName.toLowerCase()}@mail.example`,
          anyway: true,
        }),
      ).id;
    const [keptId, goneId] = [await add("Wyn"), await add("Wynne")];
    const values = async (clientId: Id<"Client">) =>
      must(await world.do(useCases.measuresView, maren(), { clientId })).courses[0]?.points.map(({ value }) => value) ??
      [];
    for (const [clientId, total] of [
      [keptId, 10],
      [goneId, 14],
    ] as const) {
      const packetId = must(
        await world.do(useCases.sendPacket, maren(), {
          requestId: world.request(),
          clientId,
          questionnaireIds: [world.seeded.questionnaires[2]],
        }),
      ).packetId;
      world.wait(10);
      await answer(packetId, total);
    }
    // Far apart, and as far from each other as an id made of a moment could come round to (625 days).
    must(await bring("E-mail,Date,Score\nwynne@mail.example,2026-02-02,20\nwynne@mail.example,2024-05-18,19\n"));
    const { bundle } = must(await world.do(useCases.scoresFhir, maren(), { clientId: goneId }));
    const ids = (bundle["entry"] as { fullUrl: string }[]).map(({ fullUrl }) => fullUrl);
    expect(new Set(ids).size).toBe(ids.length);
    expect([await values(keptId), await values(goneId)]).toEqual([[10], [19, 20, 14]]);
    // What is given to a client of everything has their scores, also those that no return brought.
    const { record } = must(await world.do(useCases.everything, maren(), { clientId: goneId }));
    const told = record.sections.find(({ title }) => title === "Scores")!.lines;
    expect(told.map(({ text }) => text)).toEqual(["19, moderately severe", "20, severe", "14, moderate"]);
    const preview = must(await world.do(useCases.mergePreview, maren(), { keptId, goneId }));
    const decided = Object.fromEntries(preview.lines.map(({ id }) => [id, "keep"]));
    const { seen } = preview;
    must(await world.do(useCases.mergeClients, maren(), { requestId: world.request(), keptId, goneId, seen, decided }));
    const { merged } = must(await world.do(useCases.chartView, maren(), { clientId: keptId }));
    const { mergeId } = merged[0]!;
    expect(await values(keptId)).toEqual([19, 20, 10, 14]);
    must(await world.do(useCases.undoMerge, maren(), { mergeId }));
    expect([await values(keptId), await values(goneId)]).toEqual([[10], [19, 20, 14]]);
    must(
      await world.do(useCases.eraseClient, maren(), { clientId: goneId, name: "Wynne Tarn", reason: "Asked for it" }),
    );
    for (const table of ["course", "brought_score", "alert"]) {
      const count = sql`select count(*)::int as n from ${sql.identifier(table)} where client_id = ${goneId}`;
      const { rows } = (await world.app.database.db.execute(count)) as { rows: readonly { n: number }[] };
      expect(rows[0]!.n, table).toBe(0);
    }
  });

  it("alarm until somebody writes what was done; owners hear once, and no letter says what of", async () => {
    const packetId = await measured("priya", 15, 2);
    const alerts = async () => (await view("priya")).alerts.filter((one) => one.packetId === packetId);
    const [alert] = await alerts();
    expect(alert).toMatchObject({ done: undefined, about: [{ message: expect.stringContaining("self-harm") }] });
    // Reading and charting it closes nothing.
    const reconcile = must(await world.do(useCases.reconcileView, maren(), { packetId }));
    const decisions = reconcile.lines.map((line) => ({ line: line.id, choice: line.suggested ?? "take" }));
    must(
      await world.do(useCases.postToChart, maren(), {
        packetId,
        requestId: world.request(),
        revision: reconcile.revision,
        decisions,
      }),
    );
    const returns = must(await world.do(useCases.returns, maren(), {}));
    expect(returns.openAlerts.map((one) => one.packetId)).toContain(packetId);
    expect(must(await world.do(useCases.chartView, maren(), { clientId: client("priya") })).openAlerts).toBeGreaterThan(
      0,
    );
    // Within the time that the practice allows, nobody else is told.
    const practiceId = (await world.app.practice())!.id;
    const letters = async () =>
      (await world.repo.outbox.latest(practiceId, 200)).filter(({ subject }) => subject === "An alert is still open");
    await escalateAlerts(world.app);
    const early = (await letters()).length;
    world.wait(25 * 60);
    await escalateAlerts(world.app);
    await escalateAlerts(world.app);
    const told = await letters();
    expect(told.length).toBe(early + 1);
    expect(JSON.stringify(told[0])).not.toMatch(/priya|desrosiers|self-harm|hurt/i);
    expect((await alerts())[0]!.escalatedAt).not.toBeNull();
    // Two close it at once: one does, the other is told who did.
    const close = (as: ReturnType<World["as"]>, done: string) =>
      world.do(useCases.closeAlert, as, { alertId: alert!.id, done });
    const both = await Promise.all([
      close(maren(), "Rang her, safe at home."),
      close(world.as("tobias"), "Left a message."),
    ]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect(both.find(({ ok }) => !ok)).toMatchObject({ error: { reason: "closed-already" } });
    const winner = both[0]!.ok
      ? ([maren(), "Rang her, safe at home."] as const)
      : ([world.as("tobias"), "Left a message."] as const);
    must(await close(winner[0], winner[1]));
    expect((await alerts())[0]!.done!.words).toBe(winner[1]);
    expect(await world.do(useCases.closeAlert, maren(), { alertId: alert!.id, done: " " })).toMatchObject({
      error: { reason: "invalid" },
    });
    // The desk reads no answers, so it reads no alert.
    expect(await close(world.as("pia"), "Called")).toMatchObject({ error: { reason: "not-allowed" } });
    // What is sent back and comes back quiet was said once: it stays open, and is one alert however often it comes.
    const again = await send("priya");
    const come = async (filled: Filled, purpose?: "sent-back"): Promise<void> => {
      const her = await world.enter(again, purpose);
      await world.fillAs(her, { PHQ9: filled });
      must(await world.do(useCases.returnPacket, her, {}));
    };
    await come(phq9(items(15, 2), "Somewhat difficult"));
    expect((await view("priya")).alerts.filter((one) => one.packetId === again)).toMatchObject([{ done: undefined }]);
    const partId = (await world.repo.packets.parts(again))[0]!.id;
    const lines = [{ partId, key: "44260-8", reason: "Is that right?" }];
    must(await world.do(useCases.sendBack, maren(), { packetId: again, requestId: world.request(), lines }));
    await come({ values: { "44260-8": "Not at all" } }, "sent-back");
    const [kept, ...more] = (await view("priya")).alerts.filter((one) => one.packetId === again);
    expect(more).toEqual([]);
    expect(kept).toMatchObject({ done: undefined, about: [] });
  });

  it("are brought from a table, line by line: what cannot be is named with why, and twice is once", async () => {
    const practiceId = (await world.app.practice())!.id;
    const ines = (await world.repo.clients.byId(practiceId, client("ines")))!;
    const text = [
      "Name;Birth date;Date;Score",
      `Ines Halvorsen;${ines.birthDate};2026-02-01;18`,
      `Halvorsen, Ines;;03.02.2026;"12,5"`,
      "Nobody Atall;;2026-02-01;3",
      "Ines Halvorsen;1950-01-01;2026-02-01;3",
      `Ines Halvorsen;${ines.birthDate};2030-02-01;3`,
      `Ines Halvorsen;${ines.birthDate};1980-02-01;3`,
      `Ines Halvorsen;${ines.birthDate};soon;3`,
      `Ines Halvorsen;${ines.birthDate};2026-02-02;28`,
      `Ines Halvorsen;${ines.birthDate};2026-02-02;-1`,
      `Ines Halvorsen;${ines.birthDate};2026-02-02;=1+1`,
    ].join("\r\n");
    const requestId = world.request();
    const dry = must(await bring(text, { requestId, dry: true }));
    expect(dry).toMatchObject({ ready: 2, brought: undefined });
    expect(dry.refused.map(({ line, why }) => `${line} ${why.split(":")[0]}`)).toEqual([
      "4 Nobody here is like that.",
      "5 Nobody here is like that.",
      "6 The date is still to come.",
      "7 The date is before they were born.",
      "8 The date is not readable.",
      "9 The score is outside what is possible",
      "10 The score is outside what is possible",
      "11 The score is not a number.",
    ]);
    const before = (await courseOf("ines"))?.points.length ?? 0;
    expect(must(await bring(text, { requestId }))).toMatchObject({ brought: 2 });
    expect(must(await bring(text, { requestId }))).toMatchObject({ brought: 0 });
    const course = (await courseOf("ines"))!;
    expect(course.points.length).toBe(before + 2);
    expect(course.points.filter(({ partId }) => partId === undefined).map(({ value }) => value)).toEqual(
      expect.arrayContaining([18, 12.5]),
    );
    for (const [bad, why] of [
      ["Name,Date,Score\n", "empty"],
      ["Date,Score\n2026-01-01,3\n", "no-person"],
      ["Name,Score\nInes Halvorsen,3\n", "no-date"],
      ["Name,Date\nInes Halvorsen,2026-01-01\n", "no-value"],
    ])
      expect(await bring(bad!)).toMatchObject({ error: { reason: "unreadable", why } });
    expect(await bring(text, { linkId: "other" })).toMatchObject({ error: { reason: "no-score" } });
    expect(await bring(text, {}, world.as("pia"))).toMatchObject({ error: { reason: "not-allowed" } });
  });

  it("are taken out as CSV and as FHIR that say what the trend says", async () => {
    const course = (await courseOf("hugo"))!;
    const { table } = must(await world.do(useCases.scoresTable, maren(), { clientId: client("hugo") }));
    const rows = parse(table, { columns: true }) as Record<string, string>[];
    expect(rows.map((row) => [row["returned"], row["value"], row["lowest"], row["highest"]])).toEqual(
      course.points.map(({ at, value }) => [at, String(value ?? ""), "0", "27"]),
    );
    const { bundle } = must(await world.do(useCases.scoresFhir, maren(), { clientId: client("hugo") }));
    expect(fhirProblems(bundle)).toEqual([]);
    const resources = (bundle["entry"] as { fullUrl: string; resource: Record<string, unknown> }[]).slice(1);
    const scores = resources.filter(({ resource }) => resource["valueQuantity"] !== undefined);
    expect(scores.map(({ resource }) => (resource["valueQuantity"] as { value: number }).value)).toEqual(
      course.points.filter(isScored).map(({ value }) => value),
    );
    // Every panel's members are there, and no id stands twice.
    const known = new Set(resources.map(({ fullUrl }) => fullUrl));
    expect(known.size).toBe(resources.length);
    for (const { resource } of resources)
      for (const member of (resource["hasMember"] ?? []) as { reference: string }[])
        expect(known).toContain(member.reference);
    const all = parse(must(await world.do(useCases.allScoresTable, maren(), {})), { columns: true }) as Record<
      string,
      string
    >[];
    expect(all.filter((row) => row["client id"] === client("hugo"))).toHaveLength(rows.length);
    expect(await world.do(useCases.scoresTable, world.as("pia"), { clientId: client("hugo") })).toMatchObject({
      error: { reason: "not-allowed" },
    });
  });

  it("say so when a version is made otherwise: what it makes is never set against what was before", async () => {
    const id = world.seeded.questionnaires[2]!;
    await measured("cosmo", 12);
    const change = async (to: (questionnaire: Questionnaire) => Questionnaire): Promise<void> => {
      const view = must(await world.do(useCases.composerView, maren(), { id }));
      const { revision, version, questionnaire } = view;
      const fhir = writeQuestionnaire(to(questionnaire));
      must(
        await world.do(useCases.saveDraft, maren(), { id, revision, version, tried: [], next: world.request(), fhir }),
      );
      must(await world.do(useCases.putInUse, maren(), { id }));
    };
    const scored = (set: (rule: ScoreRule) => ScoreRule) => (questionnaire: Questionnaire) =>
      updateItem(questionnaire, "44261-6", (item) =>
        "score" in item && item.score ? { ...item, score: set(item.score) } : item,
      );
    // Another cut-point makes no other score: it is compared, and judged by what is known now.
    await change(scored((rule) => ({ ...rule, change: { ...rule.change!, cutPoint: { value: 5, source: "ours" } } })));
    world.wait(7 * day);
    await measured("cosmo", 6);
    let course = (await courseOf("cosmo"))!;
    expect(changeIn(course)).toMatchObject({ known: true, change: { state: "improved", clinical: [true, true] } });
    expect(mixedIn(course, "Europe/London")).toMatchObject({ madeDifferently: false });
    expect(course.versions).toHaveLength(2);
    // With an item counted from the other end, it is another score.
    await change(scored((rule) => ({ ...rule, reversed: ["44250-9"] })));
    world.wait(7 * day);
    await measured("cosmo", 4);
    course = (await courseOf("cosmo"))!;
    expect(course.points.map(({ value }) => value)).toEqual([12, 6, 5]);
    expect(changeIn(course)).toEqual({ known: false, why: "made-differently" });
    const load = must(await world.do(useCases.caseload, maren(), {}));
    expect(load.lines.find(({ clientId }) => clientId === client("cosmo"))).toMatchObject({
      state: "not-known",
      scores: 3,
    });
    await change(scored(({ reversed: _, ...rule }) => rule));
  });

  it("are as reliable as the practice's own answers say, from enough people on, and marked as its own", async () => {
    const ask = async () =>
      must(
        await world.do(useCases.ownReliability, maren(), {
          questionnaireId: world.seeded.questionnaires[2],
          linkId: "44261-6",
        }),
      );
    const few = await ask();
    expect([few.alpha, few.testRetest]).toEqual([undefined, undefined]);
    for (let person = 0; person < few.fewest; person++) {
      const { id: clientId } = must(
        await world.do(useCases.addClient, maren(), {
          requestId: world.request(),
          firstName: `Marsh${person}`,
          email: `marsh.${person}@mail.example`,
          anyway: true,
        }),
      );
      const wish = { requestId: world.request(), clientId, questionnaireIds: [world.seeded.questionnaires[2]] };
      const { packetId } = must(await world.do(useCases.sendPacket, maren(), wish));
      // Answers that go together, with something of each person's own.
      const numbers = Array.from({ length: 9 }, (_, item) =>
        item === 8 ? 0 : Math.min(3, (person % 4) + ((person * 7 + item * 3) % 5 === 0 ? 1 : 0)),
      );
      await walkThrough(world.app, packetId, { PHQ9: phq9(numbers, "Somewhat difficult") }, undefined, true);
    }
    const found = await ask();
    expect(found.alpha!.people).toBeGreaterThanOrEqual(few.fewest);
    expect(found.alpha!.source).toMatch(/^this practice’s own answers, \d+ people, 2\d{3}-/);
    // The same from what each of them answered first, as their own page shows it.
    const rows: number[][] = [];
    const practiceId = (await world.app.practice())!.id;
    for (const { clientId } of await world.repo.courses.points(
      practiceId,
      await world.repo.courses.everybody(practiceId),
    )) {
      const shown = must(await world.do(useCases.measuresView, maren(), { clientId }));
      const first = (shown.items[world.seeded.questionnaires[2]!] ?? []).map(({ numbers }) => numbers[0]?.number);
      if (first.length === 9) rows.push(first as number[]);
    }
    expect(found.alpha!.people).toBe(rows.length);
    expect(found.alpha!.value).toBeCloseTo(cronbachAlpha(rows)!, 9);
    expect(
      await world.do(useCases.ownReliability, world.as("pia"), {
        questionnaireId: world.seeded.questionnaires[2],
        linkId: "x",
      }),
    ).toMatchObject({
      error: { reason: "not-allowed" },
    });
  }, 120_000);

  it("of everybody give figures, not of a few, and of colleagues to owners alone", async () => {
    const load = must(await world.do(useCases.caseload, maren(), {}));
    expect(load.scores[0]!.title).toBe("PHQ-9 total");
    const people = load.lines.length;
    expect(people).toBeGreaterThan(2);
    if (people < 5) expect(load.figures).toBeUndefined();
    expect(load.byPractitioner).toBeDefined();
    // Enough people for figures: brought scores count as any other.
    const practiceId = (await world.app.practice())!.id;
    const mails = (await world.repo.clients.byIds(practiceId, Object.values(world.seeded.clients))).values();
    const lines = [...mails].flatMap(({ email }) => (email ? [`${email},2026-01-01,20`, `${email},2026-03-01,8`] : []));
    must(await bring(`E-mail,Date,Score\n${lines.join("\n")}\n`));
    const more = must(await world.do(useCases.caseload, maren(), { order: "unmeasured" }));
    const figures = more.figures!;
    expect(figures.states!.reduce((sum, { count }) => sum + count, 0)).toBe(figures.pairs);
    expect(figures.begun).toBeGreaterThanOrEqual(5);
    for (const { share, low, high } of figures.states!) {
      expect(low).toBeLessThanOrEqual(share);
      expect(high).toBeGreaterThanOrEqual(share);
    }
    expect(more.lines.map(({ last }) => instantMs(last.at))).toEqual(
      more.lines.map(({ last }) => instantMs(last.at)).toSorted((one, other) => one - other),
    );
    for (const one of more.byPractitioner!)
      if (one.figures?.states) expect(one.figures.pairs).toBeGreaterThanOrEqual(5);
    const tobias = must(await world.do(useCases.caseload, world.as("tobias"), {}));
    expect(tobias.byPractitioner).toBeUndefined();
  });

  it("stand at the start of a visit, what moved first; what was ticked off before a call goes into its note", async () => {
    const types = await world.repo.visitTypes.all((await world.app.practice())!.id);
    const remote = types.find((type) => type.remote)!;
    world.time = instant("2027-03-01T09:00:00Z");
    await measured("hugo", 10);
    world.wait(7 * day);
    const packetId = await send("hugo");
    world.wait(5);
    await walkThrough(
      world.app,
      packetId,
      { PHQ9: phq9([3, 0, 2, 1, 1, 1, 1, 1, 1], "Somewhat difficult") },
      undefined,
      true,
    );
    must(
      await world.do(useCases.bookVisit, maren(), {
        requestId: world.request(),
        clientId: client("hugo"),
        staffId: world.seeded.staff["maren"],
        visitTypeId: remote.id,
        day: "2027-03-08",
        time: "15:00",
        minutes: 50,
        room: "",
        every: 1,
        times: 1,
      }),
    );
    const practiceId = (await world.app.practice())!.id;
    const visit = (await world.repo.visits.ofClient(practiceId, client("hugo"))).find(
      ({ startsAt }) => startsAt === "2027-03-08T15:00:00.000Z",
    )!;
    const start = must(await world.do(useCases.visitStart, maren(), { visitId: visit.id }));
    const [part] = start.parts;
    expect(part!.packetId).toBe(packetId);
    expect(part!.alarms).toHaveLength(1);
    const steps = part!.items.map(({ before, now }) => Math.abs(now.number - before!.number));
    expect(steps.length).toBeGreaterThan(2);
    expect(steps).not.toContain(0);
    expect(steps).toEqual(steps.toSorted((one, other) => other - one));
    expect(start.checklist).toHaveLength(4);
    const tick = (ticked: readonly string[]) => world.do(useCases.checkVisit, maren(), { visitId: visit.id, ticked });
    must(await tick([start.checklist[0]!, "Something that is on no list"]));
    const { checks } = must(await world.do(useCases.visitStart, maren(), { visitId: visit.id }));
    expect(checks!.ticked).toEqual([start.checklist[0]]);
    const { noteId } = must(
      await world.do(useCases.beginNote, maren(), { visitId: visit.id, requestId: world.request() }),
    );
    const { content } = must(await world.do(useCases.noteView, maren(), { noteId }));
    expect(JSON.stringify(content.body)).toContain(start.checklist[0]);
    expect(JSON.stringify(content.takeHome)).not.toContain(start.checklist[0]);
  });

  it("of how one works together stand whole at the next start, and what was asked for in words, however long ago", async () => {
    const practiceId = (await world.app.practice())!.id;
    const feedback = (await world.repo.questionnaires.all(practiceId)).find(
      ({ title }) => title === "How was our visit?",
    )!;
    must(await world.do(useCases.putInUse, maren(), { id: feedback.id }));
    world.time = instant("2029-03-01T09:00:00Z");
    const { id: clientId } = must(
      await world.do(useCases.addClient, maren(), {
        requestId: world.request(),
        firstName: "Wilhelmina",
        lastName: "Orr",
        email: "wilhelmina@mail.example",
        anyway: true,
      }),
    );
    const book = async (on: string) =>
      must(
        await world.do(useCases.bookVisit, maren(), {
          requestId: world.request(),
          clientId,
          staffId: world.seeded.staff["maren"],
          visitTypeId: (await world.repo.visitTypes.all(practiceId))[0]!.id,
          day: on,
          time: "16:00",
          minutes: 30,
          room: "",
          every: 1,
          times: 1,
        }),
      );
    await book("2029-03-01");
    await book("2029-04-12");
    world.time = instant("2029-03-02T09:00:00Z");
    const { packetId } = must(
      await world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        clientId,
        questionnaireIds: [feedback.id],
      }),
    );
    const wish = "what-should-we-do-in-another-way";
    await walkThrough(
      world.app,
      packetId,
      { "session-feedback": { values: { heard: 9, goals: 4, way: 7, worth: 8, [wish]: "Fewer exercises" } } },
      undefined,
      true,
    );
    const visits = await world.repo.visits.ofClient(practiceId, clientId);
    const next = visits.find(({ startsAt }) => startsAt > "2029-04")!;
    const { parts } = must(await world.do(useCases.visitStart, maren(), { visitId: next.id }));
    expect(parts).toHaveLength(1);
    expect(parts[0]!.items.map(({ before, now }) => [before, now.number])).toEqual(
      [9, 4, 7, 8].map((n) => [undefined, n]),
    );
    expect(parts[0]!.written).toEqual([
      { question: "What should we do in another way next time?", answer: "Fewer exercises" },
    ]);
    expect(parts[0]!.courses[0]!.points.at(-1)!.value).toBe(7);
    // It came after that one.
    const earlier = visits.find(({ startsAt }) => startsAt < "2029-04")!;
    expect(must(await world.do(useCases.visitStart, maren(), { visitId: earlier.id })).parts).toHaveLength(1);
  });

  it("are asked for by themselves: once for each visit or every so many weeks, by links that all lead to today's", async () => {
    world.time = instant("2028-05-01T09:00:00Z");
    const practiceId = (await world.app.practice())!.id;
    const { id: clientId } = must(
      await world.do(useCases.addClient, maren(), {
        requestId: world.request(),
        firstName: "Ottilie",
        lastName: "Reed",
        email: "ottilie@mail.example",
        anyway: true,
      }),
    );
    const [type] = await world.repo.visitTypes.all(practiceId);
    const book = async (on: string) =>
      must(
        await world.do(useCases.bookVisit, maren(), {
          requestId: world.request(),
          clientId,
          staffId: world.seeded.staff["maren"],
          visitTypeId: type!.id,
          day: on,
          time: "15:00",
          minutes: 30,
          room: "",
          every: 1,
          times: 1,
        }),
      );
    const schedule = async (more: object) => {
      const requestId = world.request();
      const wish = { requestId, clientId, questionnaireIds: [world.seeded.questionnaires[2]], ...more };
      // Pressed twice it begins once.
      must(await world.do(useCases.scheduleMeasures, maren(), wish));
      must(await world.do(useCases.scheduleMeasures, maren(), wish));
      return requestId;
    };
    const letters = async () =>
      (await world.repo.outbox.latest(practiceId, 500)).filter(
        ({ to, purpose }) => to === "ottilie@mail.example" && purpose === "packet",
      );
    const packets = async () => world.repo.packets.ofClient(practiceId, clientId);
    /** Two processes look at the same time, every few hours until then. */
    const until = async (then: string): Promise<void> => {
      while (world.time < instant(then)) {
        world.wait(5 * 60);
        await Promise.all([runSchedules(world.app), runSchedules(world.app)]);
      }
    };
    for (const on of ["2028-05-03", "2028-05-10", "2028-05-17"]) await book(on);
    const scheduleId = await schedule({ everyWeeks: null, recall: "since-last" });
    await until("2028-05-02T06:00:00Z");
    expect(await letters()).toEqual([]);
    await until("2028-05-03T15:30:00Z");
    expect(await letters()).toHaveLength(1);
    const [first] = await packets();
    expect(first).toMatchObject({ repeats: true });
    const her = await world.enter(first!.id);
    // There was no session before the first.
    expect(must(await world.do(useCases.fillView, her, {})).recallSince).toBeUndefined();
    await world.fillAs(her, { PHQ9: phq9(items(12), "Somewhat difficult") });
    must(await world.do(useCases.returnPacket, her, {}));
    await until("2028-05-10T15:30:00Z");
    expect(await letters()).toHaveLength(2);
    expect(await packets()).toHaveLength(2);
    const [second] = await packets();
    expect(second!.seriesOf).toBe(first!.id);
    // The new letter's link and the first one's lead to the same page.
    const door = async (letter: { readonly body: string }) => {
      const token = /\/p\/([\w-]+)/.exec(letter.body)![1]!;
      must(await world.do(useCases.sendCode, world.stranger, { token }));
      return must(await world.do(useCases.checkCode, world.stranger, { token, code: await world.codeOf(second!.id) }))
        .packetId;
    };
    const [newer, older] = await letters();
    expect([await door(newer!), await door(older!)]).toEqual([second!.id, second!.id]);
    const again = await world.enter(second!.id);
    expect(must(await world.do(useCases.fillView, again, {})).recallSince).toBe("2028-05-03T14:00:00.000Z");
    // Not answered: the next visit asks for the same one, and makes no other.
    await until("2028-05-17T15:30:00Z");
    expect([(await letters()).length, (await packets()).length]).toEqual([3, 2]);
    must(await world.do(useCases.endSchedule, maren(), { scheduleId }));
    must(await world.do(useCases.endSchedule, maren(), { scheduleId }));
    await book("2028-05-24");
    const weekly = await schedule({ everyWeeks: 1 });
    await until("2028-06-08T12:00:00Z");
    // At once, and one, two and three weeks later.
    expect((await letters()).length).toBe(7);
    // In another rhythm from now on, by the link there is.
    const change = { scheduleId: weekly, everyWeeks: 4, recall: "since-last" };
    must(await world.do(useCases.changeSchedule, maren(), change));
    await until("2028-06-22T12:00:00Z");
    expect((await letters()).length).toBe(7);
    const { schedules } = must(await world.do(useCases.measuresView, maren(), { clientId }));
    expect(schedules!.going).toMatchObject([{ id: weekly, everyWeeks: 4, recall: "since-last" }]);
    must(await world.do(useCases.endSchedule, maren(), { scheduleId: weekly }));
    expect(await world.do(useCases.changeSchedule, maren(), change)).toMatchObject({ error: { reason: "not-found" } });
    const ends = await schedule({ everyWeeks: 0 });
    await until("2028-07-01T12:00:00Z");
    expect((await letters()).length).toBe(8);
    must(await world.do(useCases.endSchedule, maren(), { scheduleId: ends, last: "yes" }));
    await until("2028-08-01T12:00:00Z");
    expect((await letters()).length).toBe(9);
    expect(
      await world.do(useCases.scheduleMeasures, maren(), {
        requestId: world.request(),
        clientId,
        questionnaireIds: [],
      }),
    ).toMatchObject({
      error: { reason: "invalid" },
    });
  });
});

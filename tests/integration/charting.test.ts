import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import type { Dated } from "../../src/core/chart";
import { renderRecordPaper, useCases } from "../../src/server";
import { newLine, type Item, type LineKind } from "../../src/core/questionnaire";
import type { Id } from "../../src/core/shared";
import { rights } from "../../src/core/team";
import { textByPoppler } from "../support/pdf";
import { fhirProblems } from "../support/fhir";
import { rewrite } from "../support/signing";
import { kinds, text, World } from "../support/world";

const line = (kind: LineKind, linkId: string, words: string, rest: Partial<Item> = {}): Item =>
  ({ ...newLine(kind, linkId), text: words, ...rest }) as Item;

describe.each(kinds)("from a return to the chart on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const maren = () => world.as("maren");
  const client = (name: string): Id<"Client"> => world.seeded.clients[name]!;
  const asks = async (title: string, items: readonly Item[]): Promise<Id<"Questionnaire">> => {
    const made = { requestId: world.request(), title, kind: "intake" };
    const { id } = must(await world.do(useCases.newQuestionnaire, maren(), made));
    await rewrite(world, id, (q) => ({ ...q, items }));
    return id;
  };
  const returned = async (who: string, id: Id<"Questionnaire">, answers: Readonly<Record<string, string>>) => {
    const send = { requestId: world.request(), clientId: client(who), questionnaireIds: [id] };
    const { packetId } = must(await world.do(useCases.sendPacket, maren(), send));
    const actor = await world.enter(packetId);
    const partId = must(await world.do(useCases.fillView, actor, {})).parts[0]!.id;
    const changes = Object.entries(answers).map(([key, value]) => ({ kind: "values", key, values: text(value) }));
    must(await world.do(useCases.saveAnswers, actor, { partId, changes }));
    must(await world.do(useCases.returnPacket, actor, {}));
    world.wait(1);
    return { packetId, partId };
  };
  const reconcile = async (packetId: Id<"Packet">, as = maren()) =>
    must(await world.do(useCases.reconcileView, as, { packetId }));
  const post = async (packetId: Id<"Packet">, more: object = {}) => {
    const { revision } = await reconcile(packetId);
    return world.do(useCases.postToChart, maren(), {
      packetId,
      requestId: world.request(),
      revision,
      decisions: [],
      ...more,
    });
  };
  const chart = async (who: string, on?: string) =>
    must(await world.do(useCases.chartView, maren(), { clientId: client(who), on }));
  const valueIn = async (who: string, key: string, on?: string): Promise<string | undefined> => {
    const found = (await chart(who, on)).sections.flatMap((s) => s.fields).find((f) => f.field.key === key);
    return found && "state" in found ? found.state?.current?.value : undefined;
  };
  const bands = () =>
    asks("Bands", [
      line("long-text", "why", "What brings you here?"),
      line("short-text", "tall", "How tall are you?", {}),
      line("short-text", "odd", "What is your favourite colour?"),
    ]);

  it("posts by the plan that stands from the start, by what was moved, and by a variant of one's own", async () => {
    const id = await bands();
    const plan = async (whose?: "own" | "practice", as = maren()) =>
      must(await world.do(useCases.planView, as, { questionnaireId: id, whose }));
    const first = await plan();
    expect(first.lines.filter((l) => l.kind !== "remarks").map((l) => [l.linkId, l.target?.field, l.why])).toEqual([
      ["why", "main-concern", "words"],
      ["tall", "height", "words"],
      ["odd", undefined, "none"],
    ]);
    expect([first.kept, first.revision, first.mayChange]).toEqual([false, 0, true]);
    const keep = (lines: object[], more: object = {}, as = maren()) =>
      world.do(useCases.keepPlan, as, {
        questionnaireId: id,
        whose: "practice",
        revision: 0,
        lines,
        order: [],
        ...more,
      });
    // A list does not hold one answer, nor is there a field of that name; nothing of either is kept.
    for (const field of ["medicines", "nowhere"])
      expect(await keep([{ linkId: "odd", field }])).toMatchObject({ error: { reason: "wrong-field" } });
    must(await keep([{ linkId: "odd", field: "hobbies", rule: "add" }]));
    // Two at once: the second is told, and nothing of the first is lost.
    expect(await keep([{ linkId: "odd", field: null }])).toMatchObject({ error: { reason: "plan-moved" } });
    must(await keep([{ linkId: "odd", field: null }], { whose: "own" }, world.as("tobias")));
    expect((await plan(undefined, world.as("tobias"))).lines.map((l) => l.target?.field)).toEqual([
      "main-concern",
      "height",
      undefined,
      undefined,
    ]);
    const { packetId } = await returned("hugo", id, { why: "My neck", tall: "5 ft 11 in", odd: "Blue" });
    expect((await reconcile(packetId)).lines.map((l) => [l.field.key, l.incoming])).toEqual([
      ["main-concern", "My neck"],
      ["height", "180.3"],
      ["hobbies", "Blue"],
    ]);
    // A colleague's variant is theirs alone, until it is offered and taken over.
    expect((await plan()).offers).toEqual([]);
    must(await world.do(useCases.offerPlan, world.as("tobias"), { questionnaireId: id, offered: true }));
    const [offer] = (await plan()).offers;
    must(await world.do(useCases.takePlan, maren(), { questionnaireId: id, planId: offer!.id }));
    expect((await reconcile(packetId)).lines.map((l) => l.field.key)).toEqual(["main-concern", "height"]);
    must(await world.do(useCases.dropPlan, maren(), { questionnaireId: id }));
    expect((await reconcile(packetId)).lines).toHaveLength(3);
    // Another version carries it over, and says what is new.
    await rewrite(world, id, (q) => ({ ...q, items: [...q.items, line("long-text", "more", "Who supports you?")] }));
    expect((await plan()).lines.slice(0, -1).map((l) => [l.linkId, l.target?.field, l.isNew])).toEqual([
      ["why", "main-concern", false],
      ["tall", "height", false],
      ["odd", "hobbies", false],
      ["more", "support", true],
    ]);
  });

  it("lets a line go elsewhere for one return, keeps what was decided, and tells who decides beside", async () => {
    const id = await bands();
    const older = await returned("cosmo", id, { why: "An older return" });
    const { packetId, partId } = await returned("cosmo", id, { why: "My wrist", tall: "180 cm" });
    expect((await reconcile(packetId)).waiting.map((w) => w.packetId)).toEqual([older.packetId]);
    const decisions = [{ line: `${partId}|tall`, choice: "edit", edited: "181" }];
    const redirects = { [`${partId}|why`]: "concern-since" };
    must(await world.do(useCases.keepDecisions, maren(), { packetId, decisions, redirects }));
    // Left and come back: it stands as it was decided; a colleague sees that somebody is at it, and not what.
    expect((await reconcile(packetId)).draft).toEqual({ decisions, redirects });
    const beside = await reconcile(packetId, world.as("tobias"));
    expect([beside.draft, beside.others.map((o) => o.by)]).toEqual([undefined, ["Maren Holloway"]]);
    // Nobody's name, and no list, is reached by the way.
    for (const field of ["first-name", "medicines"]) {
      const made = { packetId, decisions: [], redirects: { [`${partId}|why`]: field } };
      must(await world.do(useCases.keepDecisions, maren(), made));
      expect((await reconcile(packetId)).lines[0]!.field.key).toBe("main-concern");
    }
    // Not forgotten: it stands at their visit until it is charted.
    const visit = (await world.repo.visits.ofClient((await world.app.practice())!.id, client("cosmo"))).at(-1)!;
    const onSheet = async () =>
      must(await world.do(useCases.daySheet, maren(), { day: visit.startsAt.slice(0, 10) })).lines.find(
        (l) => l.visitId === visit.id,
      )!.uncharted;
    expect(await onSheet()).toEqual([older.packetId, packetId]);
    const first = must(await post(older.packetId));
    expect(await onSheet()).toEqual([packetId]);
    expect(first.next).toBe(packetId);
    const { next } = must(await post(packetId, { decisions, redirects }));
    expect(next).toBeUndefined();
    expect(await valueIn("cosmo", "height")).toBe("181");
    expect(await valueIn("cosmo", "concern-since")).toBe("My wrist");
    expect(await valueIn("cosmo", "main-concern")).toMatch(/\n\n2026-\d\d-\d\d: An older return$/);
    // Once it is posted there is nothing left to decide.
    expect(await world.do(useCases.keepDecisions, maren(), { packetId, decisions, redirects })).toMatchObject({
      error: { reason: "not-found" },
    });
    expect((await world.repo.reconcileDrafts.of(packetId)).length).toBe(0);
  });

  it("takes back one line of a posting with a reason, and shows the chart as it was on a day", async () => {
    const id = await bands();
    const before = await valueIn("ines", "main-concern");
    const { packetId, partId } = await returned("ines", id, { why: "My shoulder", tall: "170 cm" });
    const { postingId } = must(await post(packetId));
    const view = await chart("ines");
    const posting = view.postings.find((p) => p.id === postingId)!;
    const entry = posting.lines.find((l) => l.label === "Main concern")!.seq;
    const undo = (requestId: string, more: object = {}) =>
      world.do(useCases.reverse, maren(), { clientId: client("ines"), postingId, requestId, entry, ...more });
    const requestId = world.request();
    must(await undo(requestId, { reason: "Said of somebody else." }));
    must(await undo(requestId));
    expect(await undo(world.request())).toMatchObject({ error: { reason: "already-reversed" } });
    expect(await undo(world.request(), { entry: 1 })).toMatchObject({ error: { reason: "not-found" } });
    expect([await valueIn("ines", "main-concern"), await valueIn("ines", "height")]).toEqual([before, "170"]);
    // The return stays charted; taken back whole, it comes to Returns again.
    expect(must(await world.do(useCases.returnView, maren(), { packetId })).state).toBe("settled");
    must(await undo(world.request(), { entry: undefined }));
    expect(must(await world.do(useCases.returnView, maren(), { packetId })).state).toBe("returned");
    expect(await valueIn("ines", "height")).toBeUndefined();
    // Days later it still can be seen as it was.
    world.wait(3 * 24 * 60);
    const field = { clientId: client("ines"), requestId: world.request(), field: "goals", seen: 0 };
    must(await world.do(useCases.writeInChart, maren(), { ...field, value: "Sleep through", reason: "On the phone" }));
    must(await world.do(useCases.writeInChart, maren(), { ...field, value: "Sleep through", reason: "On the phone" }));
    expect(await valueIn("ines", "goals")).toBe("Sleep through");
    expect(await valueIn("ines", "goals", "2026-11-25")).toBeUndefined();
    // What somebody wrote meanwhile is not written over; names are not written here; a list has rows.
    const again = { ...field, requestId: world.request() };
    expect(await world.do(useCases.writeInChart, maren(), { ...again, value: "Other" })).toMatchObject({
      error: { reason: "chart-moved" },
    });
    expect(
      await world.do(useCases.writeInChart, maren(), { ...again, field: "last-name", value: "Other" }),
    ).toMatchObject({ error: { reason: "not-found" } });
    expect(await world.do(useCases.writeInChart, maren(), { ...again, field: "allergies", cells: {} })).toMatchObject({
      error: { reason: "invalid" },
    });
    must(
      await world.do(useCases.writeInChart, maren(), {
        ...again,
        field: "allergies",
        cells: { substance: "Latex", reaction: "" },
      }),
    );
    const allergies = (await chart("ines")).sections.flatMap((s) => s.fields).find((f) => f.field.key === "allergies");
    expect(allergies && "rows" in allergies && allergies.rows.map((r) => r.current?.value["substance"])).toContain(
      "Latex",
    );
    expect(await world.do(useCases.writeInChart, world.as("pia"), again)).toMatchObject({
      error: { reason: "not-allowed" },
    });
    // Remarks beside an answer are staff's, and only whose they are takes them away.
    const remark = { partId, key: "why", requestId: world.request(), text: "Ask about the fall." };
    must(await world.do(useCases.addMarginNote, maren(), remark));
    must(await world.do(useCases.addMarginNote, maren(), remark));
    const seen = must(await world.do(useCases.returnView, world.as("tobias"), { packetId })).parts[0]!.remarks["why"]!;
    expect(seen.map((r) => [r.by, r.text, r.own])).toEqual([["Maren Holloway", "Ask about the fall.", false]]);
    // They go to the chart where the plan says so, led by the question they stand beside.
    const planned = {
      questionnaireId: id,
      whose: "practice",
      revision: 0,
      lines: [{ linkId: "~remarks", field: "goals" }],
    };
    expect(
      await world.do(useCases.keepPlan, maren(), { ...planned, lines: [{ linkId: "~remarks", field: "occupation" }] }),
    ).toMatchObject({ error: { reason: "wrong-field" } });
    must(await world.do(useCases.keepPlan, maren(), planned));
    const noted = (await reconcile(packetId)).lines.find((one) => one.lineId === "~remarks");
    expect([noted?.field.key, noted?.incoming]).toEqual(["goals", "What brings you here? Ask about the fall."]);
    const drop = { partId, id: seen[0]!.id };
    expect(await world.do(useCases.dropMarginNote, world.as("tobias"), drop)).toMatchObject({ ok: false });
    must(await world.do(useCases.dropMarginNote, maren(), drop));
    // What changed since they last answered the same.
    const later = await returned("ines", id, { why: "My shoulder, better", tall: "170 cm" });
    const { before: then } = must(await world.do(useCases.returnView, maren(), { packetId: later.packetId })).parts[0]!;
    expect(then?.answers).toEqual({ why: "My shoulder" });
    // From one to the next in the order of the tray, and back.
    const trayNow = must(await world.do(useCases.returns, maren(), {})).lines.filter((l) => l.state === "returned");
    const ids = (await world.repo.packets.toRead((await world.app.practice())!.id)).map((p) => p.id);
    expect([...ids].sort()).toEqual(trayNow.map((l) => l.packetId).sort());
    for (const [index, one] of ids.entries())
      expect(must(await world.do(useCases.returnView, maren(), { packetId: one })).beside).toEqual({
        before: ids[index - 1],
        next: ids[index + 1],
      });
    // Handed to a colleague, it is theirs in the tray.
    const tobias = (await world.repo.staff.all((await world.app.practice())!.id)).find((s) =>
      s.name.startsWith("Tob"),
    )!;
    const hand = () => world.do(useCases.handReturn, maren(), { packetId: later.packetId, staffId: tobias.id });
    const offered = async () =>
      must(await world.do(useCases.returnView, maren(), { packetId: later.packetId })).colleagues.map(({ id }) => id);
    // Whoever does not see the client would have it in no tray.
    const practiceId = (await world.app.practice())!.id;
    const seeing = rights.filter((right) => right !== "clients.all");
    await world.repo.practices.setRights(practiceId, { practitioner: seeing });
    await world.repo.careTeams.leave(client("ines"), tobias.id);
    expect(await offered()).not.toContain(tobias.id);
    expect(await hand()).toEqual({ ok: false, error: { reason: "nobody-there" } });
    await world.repo.careTeams.join(client("ines"), tobias.id);
    expect(await offered()).toContain(tobias.id);
    must(await hand());
    await world.repo.practices.setRights(practiceId, {});
    const tray = must(await world.do(useCases.returns, world.as("tobias"), {}));
    expect(tray.lines.find((l) => l.packetId === later.packetId)).toMatchObject({ mine: true, kinds: ["intake"] });
  });

  it("tells somebody at their old address that they are reached elsewhere, and keeps a legal name beside the one they like", async () => {
    const id = await asks("Who you are", [
      line("short-text", "name", "First name", { posting: { field: "first-name", rule: "ask" } } as Partial<Item>),
      line("email", "mail", "E-mail", { posting: { field: "email", rule: "ask" } } as Partial<Item>),
    ]);
    const old = (await world.repo.clients.byId((await world.app.practice())!.id, client("bram")))!;
    const { packetId, partId } = await returned("bram", id, { name: "Brammie", mail: "bram.new@mail.example" });
    const [name, mail] = (await reconcile(packetId)).lines;
    // Never by the plan alone.
    expect([name!.suggested, name!.choices, mail!.suggested]).toEqual([
      "keep",
      ["keep", "prefer", "take", "edit"],
      "keep",
    ]);
    const decisions = [
      { line: `${partId}|name`, choice: "prefer" },
      { line: `${partId}|mail`, choice: "take" },
    ];
    must(await post(packetId, { decisions }));
    expect([await valueIn("bram", "first-name"), await valueIn("bram", "preferred-name")]).toEqual([
      old.firstName,
      "Brammie",
    ]);
    const all = await world.repo.outbox.latest((await world.app.practice())!.id, 50);
    const letters = all.filter((m) => m.subject === "Your contact details were changed");
    expect(letters.map((m) => m.to)).toEqual([old.email]);
    expect(`${letters[0]!.subject} ${letters[0]!.body}`).not.toMatch(/Bram|bram\.new/);
  });

  it("lays charts out as the practice says, and hides no field that holds something", async () => {
    const layout = { sections: ["care", "who"], hidden: ["goals", "hobbies"], quick: ["goals"] };
    expect(await world.do(useCases.setChartLayout, world.as("tobias"), layout)).toMatchObject({
      error: { reason: "not-allowed" },
    });
    must(await world.do(useCases.setChartLayout, maren(), layout));
    const view = await chart("ines");
    expect(view.sections.slice(0, 2).map((s) => s.key)).toEqual(["care", "who"]);
    expect(view.quick).toEqual([{ label: "Goals", value: "Sleep through" }]);
    const keys = view.sections.flatMap((s) => s.fields.map((f) => f.field.key));
    expect([keys.includes("goals"), keys.includes("hobbies")]).toEqual([true, false]);
  });

  it("is taken out whole and read into another practice as a new client, once, with every value and its source", async () => {
    const { bundle, name } = must(await world.do(useCases.exportChart, maren(), { clientId: client("ines") }));
    expect([name, fhirProblems(bundle)]).toEqual(["Ines Halvorsen", []]);
    const there = await World.open(kind);
    try {
      const requestId = there.request();
      const bring = () =>
        there.do(useCases.importChart, there.as("maren"), { requestId, text: JSON.stringify(bundle) });
      const { id } = must(await bring());
      must(await bring());
      const view = must(await there.do(useCases.chartView, there.as("maren"), { clientId: id }));
      const before = await chart("ines");
      const held = (one: typeof view): string[] => {
        const all: unknown[] = [];
        const past = (history: readonly Dated<unknown>[]): unknown[] =>
          history.map(({ value, at, by, source, reversed }) => [value, at, by, source, reversed]);
        for (const found of one.sections.flatMap((section) => section.fields))
          if ("rows" in found) all.push(...found.rows.map((row) => [found.field.key, past(row.history)]));
          else if (found.state) all.push([found.field.key, past(found.state.history)]);
        return all.map((each) => JSON.stringify(each)).sort();
      };
      expect(held(view)).toEqual(held(before));
      expect(view.name).toBe("Ines Halvorsen");
      expect(must(await there.do(useCases.checkJournal, there.as("maren"), {}))).toMatchObject({ broken: undefined });
      for (const text of ["", "no JSON", "{}", JSON.stringify({ resourceType: "Bundle", entry: [] })])
        expect((await there.do(useCases.importChart, there.as("maren"), { requestId: there.request(), text })).ok).toBe(
          false,
        );
    } finally {
      await there.close();
    }
    const { table } = must(await world.do(useCases.chartTable, maren(), { clientId: client("ines") }));
    expect(table).toMatch(/^key,field,row,value,since,by/);
    expect(table).toContain("Sleep through");
    const paper = must(await world.do(useCases.chartPaper, maren(), { clientId: client("ines") }));
    expect(paper.sections.find((s) => s.title === "Goals")?.lines).toContainEqual(
      expect.objectContaining({ label: "Goals", text: expect.stringContaining("Sleep through") }),
    );
    expect(textByPoppler(await renderRecordPaper(paper))).toMatch(
      /Chart of Ines Halvorsen[\s\S]*Goals[\s\S]*Sleep through/,
    );
    const before = must(await world.do(useCases.chartPaper, maren(), { clientId: client("ines"), on: "2001-01-01" }));
    expect([before.sections, before.title]).toEqual([[], "Chart of Ines Halvorsen, as it was on 1 January 2001"]);
    expect(await world.do(useCases.exportChart, world.as("pia"), { clientId: client("ines") })).toMatchObject({
      ok: false,
    });
  });
});

import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { useCases } from "../../src/server";
import { writeQuestionnaire } from "../../src/core/fhir";
import {
  insertAfter,
  newLine,
  textsOf,
  updateItem,
  withTranslation,
  type Item,
  type Questionnaire,
} from "../../src/core/questionnaire";
import type { Id } from "../../src/core/shared";
import { fhirProblems } from "../support/fhir";
import { kinds, World } from "../support/world";

describe.each(kinds)("the library on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const pia = () => world.as("pia");
  const make = async (title = "Fresh") =>
    must(await world.do(useCases.newQuestionnaire, pia(), { requestId: world.request(), title, kind: "intake" })).id;
  const composer = async (id: Id<"Questionnaire">) => must(await world.do(useCases.composerView, pia(), { id }));
  type Made = { readonly revision: string | null; readonly version: number; readonly tried?: readonly string[] };
  /** Saves what was made from `from`: what the Composer was given, or the answer to an earlier save. */
  const save = (id: Id<"Questionnaire">, from: Made, questionnaire: Questionnaire, next = world.request()) =>
    world.do(useCases.saveDraft, pia(), {
      id,
      revision: from.revision,
      version: from.version,
      tried: from.tried ?? [],
      next,
      fhir: writeQuestionnaire(questionnaire),
    });
  const worded = (q: Questionnaire, words: string): Questionnaire =>
    updateItem(q, q.items[0]!.linkId, (i) => ({ ...i, text: words }));
  const line = async (id: Id<"Questionnaire">) =>
    must(await world.do(useCases.library, pia(), {})).lines.find((l) => l.id === id);

  it("keeps a draft per revision: who saves on an older one is told, and nothing is overwritten, even at once", async () => {
    const id = await make();
    const view = await composer(id);
    const { questionnaire } = view;
    const both = await Promise.all(["One", "Two"].map((w) => save(id, view, worded(questionnaire, w))));
    expect(both.filter((r) => r.ok)).toHaveLength(1);
    expect(both.find((r) => !r.ok)).toMatchObject({ error: { reason: "changed", by: "Pia Lindqvist" } });
    const after = await composer(id);
    expect(["One", "Two"]).toContain(after.questionnaire.items[0]!.text);
    expect(await save(id, { revision: world.request(), version: 0 }, questionnaire)).toMatchObject({
      error: { reason: "changed" },
    });
    expect(
      await world.do(useCases.saveDraft, pia(), {
        ...after,
        tried: [],
        next: world.request(),
        fhir: { resourceType: "Patient" },
      }),
    ).toMatchObject({ error: { reason: "malformed" } });
    expect(await save(world.request() as Id<"Questionnaire">, after, questionnaire)).toMatchObject({
      error: { reason: "not-found" },
    });
    // Its address is not for a browser to change.
    must(await save(id, after, { ...questionnaire, url: "urn:somebody-else" }));
    expect((await composer(id)).questionnaire.url).toBe(questionnaire.url);
  });

  it("takes a page's own save whose reply was lost for its own, and still nobody else's", async () => {
    const id = await make("Lost replies");
    const view = await composer(id);
    const lost = world.request();
    must(await save(id, view, worded(view.questionnaire, "First"), lost));
    // The page heard nothing, typed on, and tries again.
    must(await save(id, { ...view, tried: [lost] }, worded(view.questionnaire, "First and more")));
    expect((await composer(id)).questionnaire.items[0]!.text).toBe("First and more");
    expect(await save(id, { ...view, tried: [lost] }, worded(view.questionnaire, "Late"))).toMatchObject({
      error: { reason: "changed" },
    });
    // The same for the save that starts the draft.
    must(await world.do(useCases.putInUse, pia(), { id }));
    const fresh = await composer(id);
    const begun = world.request();
    expect(fresh.revision).toBeNull();
    must(await save(id, fresh, worded(fresh.questionnaire, "Second"), begun));
    must(await save(id, { ...fresh, tried: [begun] }, worded(fresh.questionnaire, "Second and more")));
  });

  it("refuses a page left open while the draft was put in use, thrown away or begun anew, whatever came since", async () => {
    const id = await make("Left open");
    const first = await composer(id);
    must(await save(id, first, worded(first.questionnaire, "One")));
    const open = await composer(id);
    must(await world.do(useCases.putInUse, pia(), { id }));
    expect(await save(id, open, worded(open.questionnaire, "Late"))).toMatchObject({ error: { reason: "changed" } });
    const before = await composer(id);
    must(await save(id, before, worded(before.questionnaire, "Two")));
    expect(await save(id, open, worded(open.questionnaire, "Late"))).toMatchObject({ error: { reason: "changed" } });
    must(await world.do(useCases.putInUse, pia(), { id }));
    // Made from version 1, of which a second has come since: it would take that one's changes back unseen.
    expect(await save(id, before, worded(before.questionnaire, "Late"))).toMatchObject({
      error: { reason: "changed" },
    });
    expect((await composer(id)).questionnaire.items[0]!.text).toBe("Two");
  });

  it("makes one questionnaire of one press, also pressed twice at once", async () => {
    const requestId = world.request();
    const made = await Promise.all(
      [1, 2, 3, 4].map(() =>
        world.do(useCases.newQuestionnaire, pia(), { requestId, title: "Pressed twice", kind: "intake" }),
      ),
    );
    expect(made.map((m) => must(m).id)).toEqual([requestId, requestId, requestId, requestId]);
    const copyId = world.request();
    for (let index = 0; index < 2; index++)
      expect(must(await world.do(useCases.duplicate, pia(), { requestId: copyId, id: requestId })).id).toBe(copyId);
    expect(
      must(await world.do(useCases.library, pia(), {})).lines.filter((l) => l.title.endsWith("Pressed twice")),
    ).toHaveLength(2);
    // Nor does one file that two people bring at once come in twice.
    const text = JSON.stringify({
      ...writeQuestionnaire((await composer(must(made[0]!).id)).questionnaire),
      url: `urn:uuid:${world.request()}`,
      status: "active",
    });
    const brought = (
      await Promise.all([pia(), world.as("maren")].map((who) => world.do(useCases.importQuestionnaire, who, { text })))
    ).map(must);
    expect([new Set(brought.map((b) => b.id)).size, brought.map((b) => b.already).sort()]).toEqual([1, [false, true]]);
  });

  it("never writes a file over what somebody is writing", async () => {
    const id = await make("Being written");
    const view = await composer(id);
    must(await save(id, view, worded(view.questionnaire, "Mine")));
    const file = JSON.stringify({ ...writeQuestionnaire(worded(view.questionnaire, "From a file")), status: "active" });
    for (const as of [undefined, "new-version"])
      expect(await world.do(useCases.importQuestionnaire, pia(), { text: file, as })).toMatchObject({
        error: { reason: "here-already", draftBy: "Pia Lindqvist" },
      });
    expect((await composer(id)).questionnaire.items[0]!.text).toBe("Mine");
    expect(must(await world.do(useCases.importQuestionnaire, pia(), { text: file, as: "copy" })).id).not.toBe(id);
  });

  it("is put in use only when Proof finds no error; a version never changes, and packets stay on theirs", async () => {
    const id = await make("Sleep");
    const begun = await composer(id);
    const { questionnaire } = begun;
    expect(await world.do(useCases.putInUse, pia(), { id })).toMatchObject({
      error: { reason: "proof", findings: [{ code: "no-words" }] },
    });
    must(await save(id, begun, worded(questionnaire, "How do you sleep?")));
    // Pressed twice at once: one version.
    const pressed = await Promise.all([1, 2].map(() => world.do(useCases.putInUse, pia(), { id })));
    expect(pressed).toEqual([
      { ok: true, value: { version: 1 } },
      { ok: true, value: { version: 1 } },
    ]);
    const packetId = must(
      await world.do(useCases.sendPacket, pia(), {
        requestId: world.request(),
        visitId: world.seeded.visits["cosmo"],
        questionnaireIds: [id],
      }),
    ).packetId;
    const view = await composer(id);
    expect(view).toMatchObject({ revision: null, version: 1, inUseNumber: 1 });
    must(
      await save(
        id,
        view,
        insertAfter(worded(view.questionnaire, "How do you sleep now?"), view.questionnaire.items[0]!.linkId, {
          ...newLine("yes-no", "nap"),
          text: "Do you nap?",
        }),
      ),
    );
    expect(await line(id)).toMatchObject({ state: "active", version: 1, draft: true, timesUsed: 1 });
    must(await world.do(useCases.putInUse, pia(), { id }));
    const shown = must(await world.do(useCases.questionnaireView, pia(), { id }));
    expect(shown.versions.map((v) => [v.number, v.inUse])).toEqual([
      [2, true],
      [1, false],
    ]);
    expect(shown.versions[0]!.changes.map((c) => c.words)).toEqual([
      "Reworded: “How do you sleep?” is now “How do you sleep now?”",
      "Added: “Do you nap?”",
    ]);
    const [part] = await world.repo.packets.parts(packetId);
    expect((await world.repo.versions.definition(part!.versionId)).items).toHaveLength(1);
    await expect(world.repo.questionnaires.remove(id)).rejects.toThrow();
  });

  it("offers what is asked elsewhere by its words, never its own questions, scores or conditions", async () => {
    const bank = async (words: string, except: string = world.request()) =>
      must(await world.do(useCases.questionBank, pia(), { words, except }));
    const found = await bank("who are THEY to you");
    expect(found[0]).toMatchObject({
      from: "Before your first visit",
      question: { text: "Who are they to you?", posting: { field: "emergency-relation" } },
    });
    expect(found[0]!.question.options.length).toBeGreaterThan(1);
    expect(
      (await bank("health")).every((l) => l.question.shownWhen === undefined && l.question.score === undefined),
    ).toBe(true);
    const own = must(await world.do(useCases.library, pia(), {})).lines.find(
      (l) => l.title === "Before your first visit",
    )!.id;
    expect((await bank("who are they to you", own)).map((l) => l.from)).not.toContain("Before your first visit");
    expect([await bank("?!"), await bank("zzz qqq")]).toEqual([[], []]);
    expect((await bank("the")).length).toBeLessThanOrEqual(6);
  });

  it("prints one blank: every question, its options or lines to write on, when to answer it, and a place to sign", async () => {
    const { lines } = must(await world.do(useCases.library, pia(), {}));
    const consent = must(
      await world.do(useCases.blankPaper, pia(), { id: lines.find((l) => l.title === "Consent to care")!.id }),
    );
    expect([consent.signed, consent.lines.some((l) => l.kind === "text")]).toEqual([true, true]);
    const intake = must(
      await world.do(useCases.blankPaper, pia(), { id: lines.find((l) => l.title === "Before your first visit")!.id }),
    );
    expect(intake.lines.filter((l) => l.kind === "question").every((l) => l.options.length > 0 || l.rules > 0)).toBe(
      true,
    );
    expect(intake.lines.some((l) => l.only?.startsWith("Only when “"))).toBe(true);
    const measure = must(
      await world.do(useCases.blankPaper, pia(), {
        id: lines.find((l) => l.title.includes("PHQ-9") && l.state === "active")!.id,
      }),
    );
    expect(measure.lines.filter((l) => l.kind === "question")).toHaveLength(10);
    expect(await world.do(useCases.blankPaper, pia(), { id: world.request() })).toMatchObject({
      error: { reason: "not-found" },
    });
    expect(await world.journal()).toContain("questionnaire.print");
  });

  it("is rehearsed from the draft, without posting lines, alerts or score rules, and leaves no packet behind", async () => {
    const id = await make("Rehearsed");
    const view = await composer(id);
    const { questionnaire } = view;
    must(
      await save(id, view, {
        ...questionnaire,
        items: [
          {
            ...newLine("yes-no", "a"),
            text: "A",
            posting: { field: "tobacco", rule: "ask" },
            alert: { test: { kind: "numbers", low: 1 }, message: "Look" },
          } as Item,
        ],
      }),
    );
    const { questionnaire: shown } = must(await world.do(useCases.rehearsal, pia(), { id }));
    expect(JSON.stringify(shown)).not.toMatch(/tobacco|Look/);
    expect(await line(id)).toMatchObject({ timesUsed: 0, version: 0 });
  });

  it("is closed to clients and strangers, and open to every role", async () => {
    const id = await make("Guarded");
    for (const useCase of [
      useCases.composerView,
      useCases.saveDraft,
      useCases.putInUse,
      useCases.retire,
      useCases.removeDraft,
      useCases.dropDraft,
      useCases.duplicate,
      useCases.newQuestionnaire,
      useCases.bringStarters,
      useCases.questionBank,
      useCases.blankPaper,
      useCases.rehearsal,
      useCases.importQuestionnaire,
    ])
      expect(await world.do(useCase as typeof useCases.retire, world.stranger, { id })).toMatchObject({
        error: { reason: "not-allowed" },
      });
    for (const who of ["maren", "salma", "pia"] as const)
      expect((await world.do(useCases.composerView, world.as(who), { id })).ok).toBe(true);
  });

  it("has the starter library as drafts, once, and brings back one that was deleted", async () => {
    const { lines, starters } = must(await world.do(useCases.library, pia(), {}));
    expect([starters.missing, lines.filter((l) => l.state === "draft" && l.version === 0).length >= 16]).toEqual([
      0,
      true,
    ]);
    expect(must(await world.do(useCases.bringStarters, pia(), {}))).toEqual({ brought: 0 });
    must(await world.do(useCases.removeDraft, pia(), { id: lines.find((l) => l.title.includes("GAD-7"))!.id }));
    expect(must(await world.do(useCases.library, pia(), {})).starters.missing).toBe(1);
    const both = await Promise.all([0, 1].map(() => world.do(useCases.bringStarters, pia(), {})));
    expect(both.map((r) => must(r).brought).sort()).toEqual([0, 1]);
    const gad = must(await world.do(useCases.library, pia(), {})).lines.find((l) => l.title.includes("GAD-7"))!.id;
    expect(must(await world.do(useCases.putInUse, pia(), { id: gad }))).toEqual({ version: 1 });
  });

  it("is retired and brought back; a draft is thrown away; only what never was in use is deleted", async () => {
    const [phq] = must(await world.do(useCases.library, pia(), {})).lines.filter(
      (l) => l.kind === "measure" && l.state === "active",
    );
    must(await world.do(useCases.retire, pia(), { id: phq!.id }));
    expect(
      await world.do(useCases.sendPacket, pia(), {
        requestId: world.request(),
        visitId: world.seeded.visits["ines"],
        questionnaireIds: [phq!.id],
      }),
    ).toMatchObject({ error: { reason: "not-in-use" } });
    must(await world.do(useCases.putInUse, pia(), { id: phq!.id }));
    expect(await line(phq!.id)).toMatchObject({ state: "active", version: 1 });
    const view = await composer(phq!.id);
    must(await save(phq!.id, view, { ...view.questionnaire, title: "Other words" }));
    expect((await line(phq!.id))!.title).toBe(phq!.title);
    must(await world.do(useCases.dropDraft, pia(), { id: phq!.id }));
    expect((await composer(phq!.id)).questionnaire.title).toBe(phq!.title);
    expect(await world.do(useCases.removeDraft, pia(), { id: phq!.id })).toMatchObject({
      error: { reason: "was-in-use" },
    });
    const copy = must(await world.do(useCases.duplicate, pia(), { requestId: world.request(), id: phq!.id })).id;
    expect((await composer(copy)).questionnaire).toMatchObject({
      title: `Copy of ${phq!.title}`,
      url: `urn:uuid:${copy}`,
    });
    expect(await world.do(useCases.dropDraft, pia(), { id: copy })).toMatchObject({ error: { reason: "not-found" } });
    must(await world.do(useCases.removeDraft, pia(), { id: copy }));
    expect(await line(copy)).toBeUndefined();
    for (const action of [
      "questionnaire.make",
      "questionnaire.retire",
      "questionnaire.in-use",
      "questionnaire.draft-drop",
      "questionnaire.remove",
      "questionnaire.draft-save",
    ])
      expect(await world.journal()).toContain(action);
  });

  describe("shared", () => {
    const salma = () => world.as("salma");
    const tobias = () => world.as("tobias");
    const maren = () => world.as("maren");
    const idOf = (who: "pia" | "tobias"): string => {
      const actor = world.as(who);
      return actor.kind === "staff" ? actor.id : "";
    };
    /** In use, and then open to its maker, to Tobias for use, and to owners. */
    const closed = async (title: string, share: readonly { readonly staffId: string; readonly may: string }[]) => {
      const id = must(
        await world.do(useCases.newQuestionnaire, salma(), { requestId: world.request(), title, kind: "intake" }),
      ).id;
      const view = must(await world.do(useCases.composerView, salma(), { id }));
      must(
        await world.do(useCases.saveDraft, salma(), {
          ...view,
          tried: [],
          next: world.request(),
          fhir: writeQuestionnaire(
            updateItem(view.questionnaire, view.questionnaire.items[0]!.linkId, (i) => ({
              ...i,
              text: `${title} marzipan`,
            })),
          ),
        }),
      );
      must(await world.do(useCases.putInUse, salma(), { id }));
      must(await world.do(useCases.shareQuestionnaire, salma(), { id, everyone: "none", shares: share }));
      return {
        id,
        fhir: must(
          await world.do(useCases.exportQuestionnaire, maren(), {
            versionId: must(await world.do(useCases.questionnaireView, maren(), { id })).versions[0]!.versionId,
          }),
        ),
      };
    };
    const refused = (reason: string) => ({ ok: false, error: { reason } });

    it("with some only, it is not there for others: not listed, read, sent, exported, copied, changed or told of by a file", async () => {
      const { id, fhir } = await closed("Kept close", [{ staffId: idOf("tobias"), may: "use" }]);
      const versionId = must(await world.do(useCases.questionnaireView, salma(), { id })).versions[0]!.versionId;
      expect(await line(id)).toBeUndefined();
      const ways = [
        world.do(useCases.questionnaireView, pia(), { id }),
        world.do(useCases.composerView, pia(), { id }),
        world.do(useCases.rehearsal, pia(), { id }),
        world.do(useCases.exportQuestionnaire, pia(), { versionId }),
        world.do(useCases.exportXliff, pia(), { id, language: "es" }),
        world.do(useCases.blankPaper, pia(), { id }),
        world.do(useCases.duplicate, pia(), { requestId: world.request(), id }),
        world.do(useCases.saveDraft, pia(), { id, revision: null, version: 1, tried: [], next: world.request(), fhir }),
        world.do(useCases.putInUse, pia(), { id }),
        world.do(useCases.retire, pia(), { id }),
        world.do(useCases.dropDraft, pia(), { id }),
        world.do(useCases.removeDraft, pia(), { id }),
        world.do(useCases.shareQuestionnaire, pia(), { id, everyone: "edit", shares: [] }),
      ];
      for (const way of await Promise.all(ways)) expect(way).toEqual(refused("not-found"));
      expect(
        must(await world.do(useCases.questionBank, pia(), { words: "marzipan", except: world.request() })),
      ).toEqual([]);
      const visitId = world.seeded.visits["cosmo"];
      expect(
        must(await world.do(useCases.sendOptions, pia(), { visitId })).questionnaires.map((q) => q.id),
      ).not.toContain(id);
      expect(
        await world.do(useCases.sendPacket, pia(), { requestId: world.request(), visitId, questionnaireIds: [id] }),
      ).toEqual(refused("not-in-use"));
      // The file itself tells its own title at most; it can be taken in as a copy, never over what is hidden.
      const file = JSON.stringify({ ...fhir, title: "From elsewhere" });
      for (const as of [undefined, "new-version"])
        expect(
          await world.do(useCases.importQuestionnaire, pia(), { text: file, ...(as ? { as } : {}) }),
        ).toMatchObject({
          error: { reason: "here-already", title: "From elsewhere", draftBy: undefined, mayChange: false },
        });
      expect(must(await world.do(useCases.importQuestionnaire, pia(), { text: file, as: "copy" })).id).not.toBe(id);
    });

    it("to use only: it is sent, rehearsed and copied, and nothing of it is changed", async () => {
      const { id, fhir } = await closed("To use only", [
        { staffId: idOf("tobias"), may: "use" },
        { staffId: world.request(), may: "edit" },
        { staffId: idOf("pia"), may: "none" },
      ]);
      expect(must(await world.do(useCases.library, tobias(), {})).lines.map((l) => l.id)).toContain(id);
      expect(must(await world.do(useCases.questionnaireView, tobias(), { id })).sharing).toMatchObject({
        mayChange: false,
        everyone: "none",
      });
      const ways = [
        world.do(useCases.composerView, tobias(), { id }),
        world.do(useCases.saveDraft, tobias(), {
          id,
          revision: null,
          version: 1,
          tried: [],
          next: world.request(),
          fhir,
        }),
        world.do(useCases.putInUse, tobias(), { id }),
        world.do(useCases.retire, tobias(), { id }),
        world.do(useCases.dropDraft, tobias(), { id }),
        world.do(useCases.removeDraft, tobias(), { id }),
        world.do(useCases.shareQuestionnaire, tobias(), { id, everyone: "edit", shares: [] }),
      ];
      for (const way of await Promise.all(ways)) expect(way).toEqual(refused("not-allowed"));
      must(await world.do(useCases.rehearsal, tobias(), { id }));
      must(await world.do(useCases.duplicate, tobias(), { requestId: world.request(), id }));
      expect(
        (
          await world.do(useCases.sendPacket, tobias(), {
            requestId: world.request(),
            visitId: world.seeded.visits["cosmo"],
            questionnaireIds: [id],
          })
        ).ok,
      ).toBe(true);
      // Who closed it did not shut themselves out, owners never are, and people who are not staff are not among them.
      for (const actor of [salma(), maren()])
        expect(must(await world.do(useCases.questionnaireView, actor, { id })).sharing.mayChange).toBe(true);
      expect(
        must(await world.do(useCases.questionnaireView, salma(), { id })).sharing.people.map((p) => [p.name, p.may]),
      ).toEqual([
        ["Maren Holloway", "none"],
        ["Pia Lindqvist", "none"],
        ["Salma Idris", "edit"],
        ["Tobias Renn", "use"],
      ]);
    });

    it("with one more who may change it, and with everyone again", async () => {
      const { id } = await closed("Opened again", [{ staffId: idOf("tobias"), may: "edit" }]);
      must(await world.do(useCases.shareQuestionnaire, tobias(), { id, everyone: "use", shares: [] }));
      expect((await line(id))?.title).toBe("Opened again");
      expect(await world.do(useCases.composerView, pia(), { id })).toEqual(refused("not-allowed"));
      // Salma was left out by Tobias, and can only use it now.
      expect(await world.do(useCases.composerView, salma(), { id })).toEqual(refused("not-allowed"));
      must(await world.do(useCases.shareQuestionnaire, maren(), { id, everyone: "edit", shares: [] }));
      must(await world.do(useCases.composerView, pia(), { id }));
      expect(await world.do(useCases.shareQuestionnaire, maren(), { id, everyone: "all", shares: [] })).toMatchObject({
        error: { reason: "invalid" },
      });
    });
  });

  it("is handed to another practice in one file, all versions with their languages and scores, and taken in there with its past", async () => {
    const id = await make("Handed on");
    const first = await composer(id);
    const title = textsOf(first.questionnaire).find((t) => t.place === "title")!;
    must(await save(id, first, withTranslation(worded(first.questionnaire, "One?"), "es", title, "Entregado")));
    must(await world.do(useCases.putInUse, pia(), { id }));
    const second = await composer(id);
    must(await save(id, second, worded(second.questionnaire, "Two?")));
    must(await world.do(useCases.putInUse, pia(), { id }));
    const bundle = must(await world.do(useCases.handOff, pia(), { id }));
    expect(fhirProblems(bundle)).toEqual([]);
    expect(fhirProblems({ ...bundle, type: undefined })).not.toEqual([]);
    const text = JSON.stringify(bundle).replaceAll(second.questionnaire.url, "urn:from-elsewhere");
    const there = must(await world.do(useCases.importQuestionnaire, pia(), { text })).id;
    const view = must(await world.do(useCases.questionnaireView, pia(), { id: there }));
    expect(view).toMatchObject({
      state: "draft",
      versions: [{ number: 1, by: "Pia Lindqvist, from a file" }],
      draftChanges: [{ words: "Reworded: “One?” is now “Two?”" }],
      languages: [{ language: "en" }, { language: "es" }],
    });
    must(await world.do(useCases.putInUse, pia(), { id: there }));
    // The same file again changes nothing, and what is wrong in any of its versions is said with its place.
    expect(must(await world.do(useCases.importQuestionnaire, pia(), { text }))).toEqual({ id: there, already: true });
    const entry = bundle["entry"] as { resource: object }[];
    for (const [broken, path] of [
      [
        {
          ...bundle,
          entry: [
            entry[0],
            { resource: { resourceType: "Questionnaire", title: "T", status: "active", item: [{ type: "string" }] } },
          ],
        },
        "entry[1].resource.item[0].linkId",
      ],
      [{ ...bundle, entry: [] }, "entry"],
      [{ ...bundle, entry: [entry[0], { resource: { ...entry[1]!.resource, url: "urn:another" } }] }, "entry"],
      [{ ...bundle, entry: [{}] }, "entry[0].resource"],
    ] as const)
      expect(await world.do(useCases.importQuestionnaire, pia(), { text: JSON.stringify(broken) })).toMatchObject({
        error: { reason: "bad-file", problems: [{ path }] },
      });
  });

  it("lists the languages of each, the draft's where there is one", async () => {
    const id = await make("In two languages");
    expect((await line(id))!.languages).toEqual(["en"]);
    const view = await composer(id);
    const title = textsOf(view.questionnaire).find((t) => t.place === "title")!;
    must(
      await save(
        id,
        view,
        ["pt", "ar"].reduce(
          (q, l) => withTranslation(q, l, title, "T"),
          withTranslation(view.questionnaire, "es", { ...title, source: "Before" }, "T"),
        ),
      ),
    );
    expect((await line(id))!.languages).toEqual(["en", "ar", "es", "pt"]);
    expect(must(await world.do(useCases.questionnaireView, pia(), { id })).languages).toEqual([
      { language: "en", done: 1, of: 1 },
      { language: "ar", done: 1, of: 1 },
      { language: "es", done: 0, of: 1 },
      { language: "pt", done: 1, of: 1 },
    ]);
    expect(must(await world.do(useCases.exportXliff, pia(), { id, language: "ar" })).xliff).toContain('trgLang="ar"');
    for (const language of ["__proto__", '"><x', ""])
      expect(await world.do(useCases.exportXliff, pia(), { id, language })).toMatchObject({
        error: { reason: "invalid" },
      });
    expect(must(await world.do(useCases.rehearsal, pia(), { id, language: "pt-BR" })).questionnaire.title).toBe("T");
  });
});

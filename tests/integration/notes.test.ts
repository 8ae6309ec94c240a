import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import {
  linesOf,
  markdown,
  notePlaceholders,
  paragraph,
  plainText,
  quotesIn,
  startingLayouts,
  type NoteBlock,
  type PlainBlock,
} from "../../src/core/notes";
import type { Id } from "../../src/core/shared";
import { clientActor, renderNotePaper, useCases } from "../../src/server";
import type { ClientActor } from "../../src/usecases/kit";
import { fhirProblems } from "../support/fhir";
import { textByPoppler } from "../support/pdf";
import { kinds, World } from "../support/world";

const secret = "Only for the practice: mentions her sister.";
describe.each(kinds)("from what came back to a shared note on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const maren = () => world.as("maren");
  const tobias = () => world.as("tobias");
  const returned = async (who = "hugo"): Promise<Id<"Packet">> => {
    const id = await world.send(who);
    world.wait(5);
    await world.fill(id);
    world.wait(5);
    return id;
  };
  const begin = async (input: object, as = maren()) =>
    must(await world.do(useCases.beginNote, as, { requestId: world.request(), ...input })).noteId;
  const view = async (noteId: Id<"Note">, as = maren()) => must(await world.do(useCases.noteView, as, { noteId }));
  const save = async (noteId: Id<"Note">, own: readonly NoteBlock[], theirs: readonly PlainBlock[], as = maren()) => {
    const { content, revision } = await view(noteId, as);
    const document = (added: readonly NoteBlock[], to: readonly NoteBlock[]) => ({
      type: "doc",
      content: [...added, ...to],
    });
    return world.do(useCases.saveNote, as, {
      noteId,
      revision,
      body: document(own, content.body.content),
      takeHome: document(theirs, content.takeHome.content),
    });
  };
  const finish = async (noteId: Id<"Note">, more: object = {}) =>
    world.do(useCases.finishNote, maren(), {
      noteId,
      revision: (await view(noteId)).revision,
      requestId: world.request(),
      ...more,
    });
  /** Through the door of the newest take-home that went out. */
  const reader = async (packetId: Id<"Packet">): Promise<ClientActor> => {
    const [letter] = await world.letters(packetId, "take-home");
    const [, token = ""] = /\/p\/([\w-]+)/.exec(letter!.body)!;
    world.wait(2);
    must(await world.do(useCases.sendCode, world.stranger, { token }));
    const code = await world.codeOf(packetId);
    const { passToken } = must(await world.do(useCases.checkCode, world.stranger, { token, code }));
    return (await clientActor(world.app, packetId, passToken, { address: "", device: "" })) as ClientActor;
  };
  const sharedPacket = async (noteId: Id<"Note">) => (await world.repo.notes.shared(noteId)).at(-1)!.packetId;

  it("begins laid out from a return, a visit or a client, and goes on with what is unfinished", async () => {
    const packetId = await returned();
    const noteId = await begin({ packetId });
    const note = await view(noteId);
    expect([note.layoutId, note.visit?.visitType]).toEqual(["first-assessment", "Follow-up"]);
    expect(note.content.brought.map((b) => [b.packetId, b.uncharted])).toContainEqual([packetId, true]);
    expect(quotesIn(note.content.body).length).toBeGreaterThan(10);
    // The return's and the visit's own note is gone on with; another layout is chosen by whoever wishes it.
    const visitId = world.seeded.visits["hugo"]!;
    expect(await begin({ visitId })).toBe(noteId);
    expect(await begin({ packetId })).toBe(noteId);
    expect(await begin({ packetId }, tobias())).not.toBe(noteId);
    const blank = await begin({ clientId: world.seeded.clients["hugo"]!, layoutId: "blank" });
    expect((await view(blank)).layoutId).toBe("blank");
    expect(
      await world.do(useCases.beginNote, maren(), { requestId: world.request(), packetId: visitId }),
    ).toMatchObject({
      error: { reason: "not-found" },
    });
    const sheet = must(await world.do(useCases.daySheet, maren(), {}));
    expect(sheet.unfinished.map((one) => one.id)).toEqual(expect.arrayContaining([noteId, blank]));
    expect(must(await world.do(useCases.daySheet, world.as("pia"), {})).unfinished).toEqual([]);
    // Laid out otherwise, what stood there stays in its history.
    must(await save(noteId, [paragraph("What I wrote before.")], []));
    must(await world.do(useCases.layOutNote, maren(), { noteId, layoutId: "soap" }));
    const otherwise = await view(noteId);
    expect(plainText(linesOf(otherwise.content.body, otherwise.content))).toContain("What I wrote before.");
    expect((await view(noteId)).content.body.content[0]).toMatchObject({ attrs: { section: "subjective" } });
    const { versions } = must(await world.do(useCases.noteHistory, maren(), { noteId }));
    expect(versions.length).toBeGreaterThanOrEqual(2);
    must(await world.do(useCases.restoreNote, maren(), { noteId, revision: versions[0]!.revision, restore: 1 }));
    expect((await view(noteId)).content.body.content[0]).toMatchObject({ attrs: { section: "reason" } });
  });

  it("keeps whose words are whose: nothing that was answered can be sent back changed, or brought in from elsewhere", async () => {
    const noteId = await begin({ packetId: await returned() });
    const before = await view(noteId);
    const quote = quotesIn(before.content.body)[0]!;
    const forged = { ...before.content.quotes, [quote]: { ...before.content.quotes[quote]!, answer: "forged" } };
    const body = {
      type: "doc",
      content: [{ type: "quoted", attrs: { quote, remark: "said softly", answer: "forged" } }],
    };
    must(
      await world.do(useCases.saveNote, maren(), {
        noteId,
        revision: before.revision,
        body,
        takeHome: before.content.takeHome,
        quotes: forged,
      }),
    );
    const after = await view(noteId);
    expect(after.content.quotes).toEqual(before.content.quotes);
    expect(after.content.body.content).toEqual([{ type: "quoted", attrs: { quote, remark: "said softly" } }]);
    const stranger = await returned("priya");
    const [part] = await world.repo.packets.parts(stranger);
    for (const wrong of [
      { body: { type: "doc", content: [{ type: "quoted", attrs: { quote: `${part!.id} goals`, remark: "" } }] } },
      { body: { type: "doc", content: [{ type: "measure", attrs: { measure: "__proto__" } }] } },
      { takeHome: { type: "doc", content: [{ type: "quoted", attrs: { quote, remark: "" } }] } },
      { body: { type: "doc", content: [{ type: "image", attrs: { src: "x", onerror: "x" } }] } },
    ])
      expect(
        await world.do(useCases.saveNote, maren(), {
          noteId,
          revision: after.revision,
          body: after.content.body,
          takeHome: after.content.takeHome,
          ...wrong,
        }),
      ).toMatchObject({ error: { reason: "unreadable" } });
    // Somebody else's return is not brought in; theirs is, beside the page.
    expect(await world.do(useCases.bringIntoNote, maren(), { noteId, packetId: stranger })).toMatchObject({
      error: { reason: "not-found" },
    });
    const another = await returned();
    must(await world.do(useCases.bringIntoNote, maren(), { noteId, packetId: another }));
    const brought = await view(noteId);
    expect(brought.content.brought.at(-1)).toMatchObject({ packetId: another, answers: 0 });
    expect(brought.content.body).toEqual(after.content.body);
  });

  it("is signed off, added to, signed beside, and shares only what stands below the line", async () => {
    const noteId = await begin({ packetId: await returned() });
    // Nothing is shared where nothing is written, and then nothing is signed off either.
    const none = { type: "doc", content: [] };
    const drafted = await view(noteId);
    must(
      await world.do(useCases.saveNote, maren(), {
        noteId,
        revision: drafted.revision,
        body: drafted.content.body,
        takeHome: none,
      }),
    );
    expect(await finish(noteId, { share: true })).toMatchObject({ error: { reason: "nothing-to-share" } });
    must(await save(noteId, [paragraph(secret)], [paragraph("One walk a day.")]));
    expect(await finish(noteId, { revision: 1 })).toMatchObject({ error: { reason: "note-moved" } });
    expect(await finish(noteId, { cosignBy: world.seeded.staff["pia"] })).toMatchObject({
      error: { reason: "no-such-colleague" },
    });
    must(await finish(noteId, { share: true, cosignBy: world.seeded.staff["tobias"] }));
    const signed = await view(noteId);
    expect(signed.signed?.by).toBe("Maren Holloway");
    expect(signed.shared).toMatchObject({ version: 1, withdrawn: false, changed: false });
    // From here on nobody writes in it.
    expect(await save(noteId, [paragraph("later")], [])).toMatchObject({ error: { reason: "signed" } });
    expect(await world.do(useCases.layOutNote, maren(), { noteId, layoutId: "dap" })).toMatchObject({
      error: { reason: "signed" },
    });
    const requestId = world.request();
    const added = await Promise.all(
      [0, 1].map(() => world.do(useCases.addToNote, maren(), { noteId, requestId, text: "She rang later." })),
    );
    expect(added.every((one) => one.ok)).toBe(true);
    expect((await view(noteId)).addenda.map(({ by, text }) => [by, text])).toEqual([
      ["Maren Holloway", "She rang later."],
    ]);
    expect(await world.do(useCases.cosignNote, maren(), { noteId })).toMatchObject({ error: { reason: "not-found" } });
    expect(must(await world.do(useCases.daySheet, tobias(), {})).unfinished).toContainEqual(
      expect.objectContaining({ id: noteId, toCosign: true }),
    );
    must(await world.do(useCases.cosignNote, tobias(), { noteId }));
    expect((await view(noteId)).cosign).toMatchObject({ by: "Tobias Renn", at: expect.anything() });

    // What the client reads is that document: nothing that stood above, by no other use case of theirs.
    const packetId = await sharedPacket(noteId);
    const [letter] = await world.letters(packetId, "take-home");
    expect(`${letter!.subject} ${letter!.body}`).not.toMatch(/walk|sister/);
    const client = await reader(packetId);
    const page = must(await world.do(useCases.takeHomeView, client, {}));
    expect(plainText(linesOf(page.document))).toBe("One walk a day.");
    for (const name of ["takeHomeView", "fillView", "ownConsents"] as const) {
      const told = await world.do(useCases[name] as typeof useCases.takeHomeView, client, {});
      expect(JSON.stringify(told)).not.toContain("sister");
    }
    // It is no questionnaire: it stands in no tray, and among no packets of theirs.
    expect(must(await world.do(useCases.returns, maren(), {})).lines.map((l) => l.packetId)).not.toContain(packetId);
    const chart = must(await world.do(useCases.chartView, maren(), { clientId: world.seeded.clients["hugo"]! }));
    expect(chart.packets.map((p) => p.id)).not.toContain(packetId);
    // Of a packet with questionnaires there is no take-home.
    const other = await world.enter(await world.send("hugo"));
    expect(await world.do(useCases.takeHomeView, other, {})).toMatchObject({ error: { reason: "not-found" } });

    must(await world.do(useCases.withdrawTakeHome, maren(), { noteId }));
    expect(await world.do(useCases.takeHomeView, client, {})).toMatchObject({ error: { reason: "not-found" } });
    expect((await view(noteId)).shared).toMatchObject({ withdrawn: true });
    expect(must(await world.do(useCases.shareTakeHome, maren(), { noteId, requestId: world.request() })).version).toBe(
      2,
    );
    expect(
      await world.do(useCases.shareTakeHome, world.as("pia"), { noteId, requestId: world.request() }),
    ).toMatchObject({
      ok: false,
    });
    const again = await reader(await sharedPacket(noteId));
    expect(must(await world.do(useCases.takeHomeView, again, {})).version).toBe(2);
    // Shared unchanged, nothing goes out again.
    must(await world.do(useCases.shareTakeHome, maren(), { noteId, requestId: world.request() }));
    expect((await world.repo.notes.shared(noteId)).length).toBe(2);
  });

  it("lets nothing of what stands above the line reach the client, whatever is written on either side of it", async () => {
    const clientId = world.seeded.clients["cosmo"]!;
    const stretch = fc
      .string({ minLength: 1, maxLength: 30 })
      .map((words) => words.replaceAll(/[\u0000-\u001f\ud800-\udfff]/g, "-") || "-");
    await fc.assert(
      fc.asyncProperty(
        fc.array(stretch, { maxLength: 5 }),
        fc.array(stretch, { maxLength: 4 }),
        async (own, theirs) => {
          world.wait(15);
          const noteId = await begin({ clientId, layoutId: "soap" });
          must(
            await save(
              noteId,
              own.map((words) => paragraph(`${secret} ${words}`)),
              [...theirs, "shared"].map((words) => paragraph(words)),
            ),
          );
          must(await finish(noteId, { share: true }));
          must(await world.do(useCases.addToNote, maren(), { noteId, requestId: world.request(), text: secret }));
          const client = await reader(await sharedPacket(noteId));
          const page = must(await world.do(useCases.takeHomeView, client, {}));
          expect(JSON.stringify(page)).not.toContain("sister");
          const said = plainText(linesOf(page.document));
          for (const words of theirs) if (words.trim() !== "") expect(said).toContain(words);
          // Whatever a client may ask of the server by this door says no word of it.
          for (const [name, useCase] of Object.entries(useCases))
            if (
              ["client", "client.any", "client.fill", "client.sign"].includes((useCase as { access: string }).access)
            ) {
              const told = await world.do(useCase as typeof useCases.takeHomeView, client, {});
              expect(JSON.stringify(told), name).not.toContain("sister");
            }
          expect((await world.letters(client.packetId, "take-home"))[0]!.body).not.toMatch(/sister|shared/);
        },
      ),
      { numRuns: 6, endOnFailure: true },
    );
  });

  it("learns where a practitioner has the answers, tells who else has a note open, and says who saved it", async () => {
    const noteId = await begin({ packetId: await returned("cosmo"), layoutId: "dap" });
    const note = await view(noteId);
    const moved = note.content.body.content.filter((block) => block.type === "quoted").slice(0, 2);
    const rest = note.content.body.content.filter((block) => block.type !== "quoted");
    must(
      await world.do(useCases.saveNote, maren(), {
        noteId,
        revision: note.revision,
        // Two answers below the last heading, all others beside the page.
        body: { type: "doc", content: [...rest, ...moved] },
        takeHome: note.content.takeHome,
      }),
    );
    must(await finish(noteId));
    const next = await view(await begin({ packetId: await returned("cosmo") }));
    expect(next.layoutId).toBe("dap");
    const under = next.content.body.content.slice(
      next.content.body.content.findIndex((b) => b.type === "heading" && b.attrs.section === "plan"),
    );
    expect(under.filter((block) => block.type === "quoted")).toHaveLength(2);
    expect(quotesIn(next.content.body).filter((key) => next.content.quotes[key]!.answer !== "")).toHaveLength(2);
    const at = async (page: string, as = maren(), leaving = false) =>
      must(await world.do(useCases.atNote, as, { noteId: next.id, page, leaving }));
    expect((await at("page-one-1")).others).toEqual([]);
    expect((await at("page-two-2", tobias())).others).toMatchObject([{ name: "Maren Holloway", own: false }]);
    must(await save(next.id, [paragraph("by Tobias")], [], tobias()));
    expect(await at("page-one-1")).toMatchObject({ revision: next.revision + 1, savedBy: "Tobias Renn" });
    // Gone on with over one's own other page within a minute, too, what was saved over is there again.
    for (const [said, over] of [
      ["on one page", false],
      ["on the other", true],
    ] as const) {
      const { content, revision } = await view(next.id);
      const body = { type: "doc", content: [paragraph(said), ...content.body.content] };
      must(
        await world.do(useCases.saveNote, maren(), {
          noteId: next.id,
          revision,
          body,
          takeHome: content.takeHome,
          over,
        }),
      );
      if (over) {
        const kept = (await world.repo.notes.versions(next.id)).find((one) => one.revision === revision);
        expect(plainText(linesOf(kept!.content.body, kept!.content))).toContain("on one page");
      }
    }
    await at("page-two-2", tobias(), true);
    expect((await at("page-one-1")).others).toEqual([]);
  });

  it("is laid out by layouts of one's own that may be shared, with every placeholder in every language", async () => {
    const id = world.request();
    const layout = {
      id,
      revision: 0,
      name: "Short",
      sections: [
        { id: "all", heading: "All", text: notePlaceholders.map((one) => `${one}={{${one}}}`).join("\n"), rest: true },
      ],
      takeHome: [{ heading: "For you", text: "{{client.preferredName}}, {{visit.date}}, {{today}}" }],
    };
    expect(
      await world.do(useCases.keepLayout, maren(), {
        ...layout,
        sections: [{ ...layout.sections[0]!, text: "{{client.secret}}" }],
      }),
    ).toMatchObject({ error: { reason: "invalid" } });
    must(await world.do(useCases.keepLayout, maren(), layout));
    const names = async (as = maren()) =>
      must(await world.do(useCases.noteLayouts, as, {})).lines.map((line) => line.layout.name);
    expect(await names(tobias())).not.toContain("Short");
    expect(await world.do(useCases.keepLayout, tobias(), { ...layout, revision: 1 })).toMatchObject({ ok: false });
    must(await world.do(useCases.keepLayout, maren(), { ...layout, revision: 1, shared: true }));
    expect(await names(tobias())).toContain("Short");
    expect(await world.do(useCases.keepLayout, maren(), { ...layout, revision: 1 })).toMatchObject({
      error: { reason: "layout-moved" },
    });
    const clientId = world.seeded.clients["hugo"]!;
    const dates = new Set<string>();
    for (const language of ["en", "es", "fr", "ar"]) {
      await world.repo.clients.update(clientId, { prefers: "email", language, zone: null });
      const { content } = await view(await begin({ clientId, layoutId: id }));
      const own = plainText(linesOf(content.body, content));
      const theirs = plainText(linesOf(content.takeHome));
      expect(own + theirs).not.toMatch(/\{\{|undefined/);
      expect(own).toMatch(/client\.name=Hugo Lindgren/);
      dates.add(theirs);
    }
    // The client's days are said in the client's way.
    expect(dates.size).toBe(4);
    expect(await world.do(useCases.dropLayout, tobias(), { id })).toMatchObject({ error: { reason: "not-found" } });
    must(await world.do(useCases.dropLayout, maren(), { id }));
    expect(await names()).toHaveLength(startingLayouts.length);
  });
  it("is found by its words, and taken out as PDF, Markdown and FHIR that say the same", async () => {
    const noteId = await begin({ packetId: await returned("priya") });
    must(
      await save(noteId, [paragraph("Sleeps with the wireless on: Łódź, naïve.")], [paragraph("Wireless off at ten.")]),
    );
    const find = async (words: string, as = maren()) =>
      must(await world.do(useCases.findNotes, as, { words })).lines.map((line) => line.id);
    expect(await find("WIRELESS naive")).toEqual([noteId]);
    expect(await find("wireless zeppelin")).toEqual([]);
    expect(await find("")).toEqual([]);
    must(await finish(noteId));
    must(
      await world.do(useCases.addToNote, maren(), { noteId, requestId: world.request(), text: "Rang <b>later</b>." }),
    );
    const out = must(await world.do(useCases.takeOutNote, maren(), { noteId }));
    expect(fhirProblems(out.fhir)).toEqual([]);
    const said = [
      "Sleeps with the wireless on",
      "Wireless off at ten",
      "Rang <b>later</b>",
      "Signed off by Maren Holloway",
    ];
    const paper = textByPoppler(await renderNotePaper(out.paper));
    for (const words of said) {
      expect(paper.replace(/\s+/g, " ")).toContain(words);
      if (!words.includes("<")) expect(out.markdown).toContain(words);
    }
    // Every answer that is quoted stands in the PDF, too (poppler reads it, which is none of ours).
    const { content } = await view(noteId);
    const squeezed = paper.replace(/\s+/g, "");
    for (const key of quotesIn(content.body)) {
      const { answer } = content.quotes[key]!;
      if (/^[\x20-\x7e]+$/.test(answer)) expect(squeezed).toContain(answer.replace(/\s+/g, ""));
    }
    expect(out.markdown).toBe(markdown([{ kind: "text", runs: [] }]) + out.markdown);
    expect(JSON.stringify(out.fhir)).toContain("Rang &lt;b&gt;later&lt;/b&gt;.");
    expect(await world.do(useCases.takeOutNote, world.as("pia"), { noteId })).toMatchObject({ ok: false });
  });
});

import { createHash } from "node:crypto";
import { execFileSync, spawnSync } from "node:child_process";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { fillSheet, useCases } from "../../src/server";
import { readQuestionnaire, writeQuestionnaire } from "../../src/core/fhir";
import {
  allQuestions,
  newLine,
  type AnswerValue,
  type Item,
  type Question,
  type Questionnaire,
} from "../../src/core/questionnaire";
import type { Id } from "../../src/core/shared";
import { fhirProblems } from "../support/fhir";
import { runSeals } from "../../src/jobs";
import { placesOf, signedText, textDigest } from "../../src/core/signing";
import { fieldsByQpdf, onDisk, plainSheet, sleepDiary, termsSheet } from "../support/pdf";
import { enterAs, rewrite } from "../support/signing";
import { kinds, text, World } from "../support/world";

const yes: AnswerValue = { type: "boolean", value: true };
const choice = (code: string): AnswerValue => ({ type: "coding", value: { system: "urn:o", code, display: code } });

describe.each(kinds)("worksheets, files, places to sign and chart fields on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const maren = () => world.as("maren");
  const upload = (bytes: Uint8Array, requestId = world.request(), name = "Sleep diary.pdf") =>
    world.do(useCases.newWorksheet, maren(), { requestId, name, bytes });
  const composer = async (id: Id<"Questionnaire">) => must(await world.do(useCases.composerView, maren(), { id }));
  const use = async (id: Id<"Questionnaire">): Promise<void> => {
    must(await world.do(useCases.putInUse, maren(), { id }));
  };
  /** Writes a questionnaire of these lines and puts it in use. */
  async function made(
    title: string,
    items: readonly Item[],
    rest: Partial<Questionnaire> = {},
  ): Promise<Id<"Questionnaire">> {
    const { id } = must(
      await world.do(useCases.newQuestionnaire, maren(), { requestId: world.request(), title, kind: "intake" }),
    );
    const view = await composer(id);
    must(
      await world.do(useCases.saveDraft, maren(), {
        id,
        revision: view.revision,
        version: view.version,
        tried: [],
        next: world.request(),
        fhir: writeQuestionnaire({ ...view.questionnaire, items, ...rest }),
      }),
    );
    await use(id);
    return id;
  }
  async function sent(client: string, id: Id<"Questionnaire">) {
    const { packetId } = must(
      await world.do(useCases.sendPacket, maren(), {
        requestId: world.request(),
        visitId: world.seeded.visits[client],
        questionnaireIds: [id],
      }),
    );
    const actor = await world.enter(packetId);
    return { packetId, actor, part: must(await world.do(useCases.fillView, actor, {})).parts[0]! };
  }
  const save = (
    actor: Awaited<ReturnType<World["enter"]>>,
    partId: Id<"Part">,
    values: Readonly<Record<string, readonly AnswerValue[]>>,
  ) =>
    world.do(useCases.saveAnswers, actor, {
      partId,
      changes: Object.entries(values).map(([key, v]) => ({ kind: "values", key, values: v })),
    });

  it("makes a worksheet of a PDF once, fills it from the client's answers, and hands it to another practice whole", async () => {
    const requestId = world.request();
    const twice = await Promise.all([1, 2].map(() => upload(sleepDiary(), requestId)));
    expect(twice.map((r) => must(r))).toEqual([
      { id: requestId, fields: 6 },
      { id: requestId, fields: 6 },
    ]);
    const id = requestId as Id<"Questionnaire">;
    expect(await upload(sleepDiary().slice(0, 800))).toMatchObject({
      error: { reason: "refused", why: "pdf-no-table" },
    });
    await use(id);
    const { packetId, actor, part } = await sent("hugo", id);
    expect(must(await world.do(useCases.clientSheet, actor, { partId: part.id })).bytes).toEqual(sleepDiary());
    const [bed, , woke, , how] = allQuestions(part.questionnaire) as [Question, Question, Question, Question, Question];
    expect(await world.do(useCases.returnPacket, actor, {})).toMatchObject({ error: { reason: "incomplete" } });
    must(
      await save(actor, part.id, {
        [bed.linkId]: text("22:40"),
        [woke.linkId]: [yes],
        [how.linkId]: [how.options[1]!.value],
      }),
    );
    expect(await world.do(useCases.filledSheet, maren(), { partId: part.id })).toMatchObject({
      error: { reason: "not-found" },
    });
    must(await world.do(useCases.returnPacket, actor, {}));
    expect(
      fieldsByQpdf((await fillSheet(must(await world.do(useCases.filledSheet, maren(), { partId: part.id }))))!),
    ).toMatchObject({
      bed_at: "22:40",
      wokeAtNight: "/Yes",
      slept: "/Badly",
    });
    expect(must(await world.do(useCases.returnView, maren(), { packetId })).parts[0]!.sheet).toBe(true);
    expect(await world.do(useCases.filledSheet, world.as("pia"), { partId: part.id })).toMatchObject({
      error: { reason: "not-allowed" },
    });

    const file = must(await world.do(useCases.handOff, maren(), { id }));
    expect(must(await world.do(useCases.importQuestionnaire, maren(), { text: JSON.stringify(file) }))).toMatchObject({
      id,
      already: true,
    });
    const elsewhere = await World.open("pglite");
    try {
      const there = elsewhere.as("maren");
      const given = JSON.stringify(file);
      const taken = must(await elsewhere.do(useCases.importQuestionnaire, there, { text: given }));
      expect(must(await elsewhere.do(useCases.librarySheet, there, { id: taken.id })).bytes).toEqual(sleepDiary());
      expect(must(await elsewhere.do(useCases.importQuestionnaire, there, { text: given }))).toMatchObject({
        already: true,
      });
      const other = sleepDiary("/OpenAction << /S /JavaScript /JS (1) >>");
      const swapped = given.replace(
        Buffer.from(sleepDiary()).toString("base64"),
        Buffer.from(other).toString("base64"),
      );
      expect(await elsewhere.do(useCases.importQuestionnaire, there, { text: swapped })).toMatchObject({
        error: {
          reason: "bad-file",
          problems: [{ problem: expect.stringContaining("is not the one the file speaks of") as unknown }],
        },
      });
      const owned = swapped
        .replaceAll(elsewhere.app.ports.sha1(sleepDiary()), elsewhere.app.ports.sha1(other))
        .replaceAll(/urn:uuid:[0-9a-f-]{36}/g, `urn:uuid:${world.request()}`);
      expect(await elsewhere.do(useCases.importQuestionnaire, there, { text: owned })).toMatchObject({
        error: {
          reason: "bad-file",
          problems: [{ problem: expect.stringContaining("holds something that runs") as unknown }],
        },
      });
    } finally {
      await elsewhere.close();
    }
  });

  it("takes a photo or PDF as an answer, once however often it is sent, and gives it to whom it is for and nobody else", async () => {
    const { id, fields } = must(await upload(plainSheet()));
    expect(fields).toBe(0);
    await use(id);
    const { packetId, actor, part } = await sent("ines", id);
    const other = await sent("hugo", id);
    const photo = await sharp({ create: { width: 30, height: 20, channels: 3, background: "#2f6247" } })
      .withExif({ IFD0: { Make: "Lakeside" } })
      .jpeg()
      .toBuffer();
    const give = (requestId: string, bytes: Uint8Array, more: object = {}) =>
      world.do(useCases.addFile, actor, { requestId, partId: part.id, key: "done", name: "IMG 1.jpg", bytes, ...more });
    const requestId = world.request();
    const kept = must(await give(requestId, photo));
    expect(must(await give(requestId, photo))).toEqual(kept);
    expect(kept).toMatchObject({ id: requestId, title: "IMG 1.jpg", contentType: "image/jpeg" });
    expect(await give(world.request(), new TextEncoder().encode("#!/bin/sh"))).toMatchObject({
      error: { reason: "refused", why: "wrong-type" },
    });
    expect(await give(world.request(), photo, { key: "elsewhere" })).toMatchObject({ error: { reason: "not-found" } });
    expect(await give(world.request(), photo, { partId: other.part.id })).toMatchObject({
      error: { reason: "not-found" },
    });
    // Somebody else's file, and one that is nowhere, are no answers.
    const theirs = must(
      await world.do(useCases.addFile, other.actor, {
        requestId: world.request(),
        partId: other.part.id,
        key: "done",
        name: "b",
        bytes: photo,
      }),
    );
    for (const value of [theirs, { ...kept, id: world.request() }])
      expect(await save(actor, part.id, { done: [{ type: "attachment", value }] })).toMatchObject({
        error: { reason: "invalid" },
      });
    // One that is taken back again is not kept.
    const backAgain = must(await give(world.request(), photo));
    must(await save(actor, part.id, { done: [{ type: "attachment", value: backAgain }] }));
    must(await save(actor, part.id, { done: [{ type: "attachment", value: kept }] }));
    expect(await world.do(useCases.openFile, maren(), { fileId: kept.id })).toMatchObject({
      error: { reason: "not-found" },
    });
    must(await world.do(useCases.returnPacket, actor, {}));
    expect(await give(world.request(), photo)).toMatchObject({ error: { reason: "closed" } });
    const opened = must(await world.do(useCases.openFile, maren(), { fileId: kept.id }));
    expect((await sharp(opened.bytes).metadata()).exif).toBeUndefined();
    expect(await world.do(useCases.openFile, world.as("pia"), { fileId: kept.id })).toMatchObject({
      error: { reason: "not-allowed" },
    });
    expect(await world.do(useCases.openFile, maren(), { fileId: backAgain.id })).toMatchObject({
      error: { reason: "not-found" },
    });
    const returned = must(await world.do(useCases.returnView, maren(), { packetId })).parts[0]!;
    expect(returned.lines[0]).toMatchObject({ answer: "IMG 1.jpg", files: [{ id: kept.id, title: "IMG 1.jpg" }] });
    const { fhir } = must(await world.do(useCases.exportPart, maren(), { partId: part.id }));
    expect(fhirProblems(fhir)).toEqual([]);
    expect(JSON.stringify(fhir)).toContain('"valueAttachment":{"contentType":"image/jpeg"');
    expect(await world.journal(`packet:${packetId}`)).toEqual(
      expect.arrayContaining(["file.add", "file.add-repeated", "file.refuse", "file.drop", "file.open"]),
    );
    // In the database neither its name nor what is on it can be read.
    const { rows } = (await world.app.database.db.execute("select * from stored_file")) as { rows: unknown[] };
    const stored = JSON.stringify(rows, (_, v: unknown) =>
      v instanceof Uint8Array ? Buffer.from(v).toString("latin1") : v,
    );
    for (const trace of ["IMG 1", "JFIF", "Sleep"]) expect(stored).not.toContain(trace);
  });

  it("is signed at each place that its answers show, and not returned before", async () => {
    const id = await made("Two signatures", [
      { ...newLine("yes-no", "photos"), text: "May we take photos?", required: true } as Item,
      { ...newLine("signature", "care"), text: "I agree to care." } as Item,
      {
        ...newLine("signature", "pictures"),
        text: "I agree to photos.",
        shownWhen: { behavior: "all", conditions: [{ question: "photos", operator: "=", answer: yes }] },
      } as Item,
    ]);
    const { packetId, actor, part } = await sent("ines", id);
    const sign = (place: string, name = "Ines Halvorsen") => world.sign(actor, { partId: part.id, place, name });
    expect(await sign("care")).toMatchObject({ error: { reason: "incomplete" } });
    must(await save(actor, part.id, { photos: [{ type: "boolean", value: false }] }));
    expect(await sign("pictures")).toMatchObject({ error: { reason: "not-signed-here" } });
    expect(await sign("")).toMatchObject({ error: { reason: "not-signed-here" } });
    must(await sign("care"));
    must(await save(actor, part.id, { photos: [yes] }));
    expect(await world.do(useCases.returnPacket, actor, {})).toMatchObject({
      error: { reason: "incomplete", parts: [{ unsigned: true }] },
    });
    must(await sign("care"));
    expect(await world.do(useCases.returnPacket, actor, {})).toMatchObject({ error: { reason: "incomplete" } });
    must(await sign("pictures"));
    must(await world.do(useCases.returnPacket, actor, {}));
    const [read] = must(await world.do(useCases.returnView, maren(), { packetId })).parts;
    expect(read!.signatures.map((s) => s.intent)).toEqual(["I agree to care.", "I agree to photos."]);
    const out = must(await world.do(useCases.exportPart, maren(), { partId: part.id }));
    expect(fhirProblems(out.fhir)).toEqual([]);
    expect(out.paper.signatures.map((s) => s.statement.place)).toEqual(["care", "pictures"]);
    // Signature places go out as FHIR and come back.
    const version = must(await world.do(useCases.questionnaireView, maren(), { id })).versions[0]!;
    const fhir = must(await world.do(useCases.exportQuestionnaire, maren(), { versionId: version.versionId }));
    expect(fhirProblems(fhir)).toEqual([]);
    const again = readQuestionnaire(fhir);
    expect(again.ok && writeQuestionnaire(again.value)).toEqual(fhir);
  });

  it("does not return an option that is not offered any more, nor count what hangs on it", async () => {
    const option = (code: string, on?: boolean) => ({
      value: choice(code),
      ordinal: 1,
      ...(on === undefined
        ? {}
        : {
            shownWhen: {
              behavior: "all" as const,
              conditions: [
                { question: "knee", operator: "=" as const, answer: { type: "boolean" as const, value: on } },
              ],
            },
          }),
    });
    const id = await made("Which exercises?", [
      { ...newLine("yes-no", "knee"), text: "Does your knee hurt?", required: true } as Item,
      {
        ...newLine("several-of", "which"),
        text: "Which would you like?",
        options: [option("swim"), option("run", false)],
      } as Item,
      {
        ...newLine("score", "many"),
        text: "How many",
        score: { method: "count", items: ["which"], fewestAnswered: 0, proration: "none", bands: [] },
      } as Item,
      {
        ...newLine("short-text", "where"),
        text: "Where do you run?",
        shownWhen: { behavior: "all", conditions: [{ question: "which", operator: "=", answer: choice("run") }] },
      } as Item,
      {
        ...newLine("short-text", "often"),
        text: "How often?",
        shownWhen: {
          behavior: "all",
          conditions: [{ question: "many", operator: ">=", answer: { type: "decimal", value: 1 } }],
        },
      } as Item,
    ]);
    const { packetId, actor, part } = await sent("noor", id);
    must(
      await save(actor, part.id, {
        knee: [{ type: "boolean", value: false }],
        which: [choice("swim"), choice("run")],
        where: text("By the lake"),
        often: text("Weekly"),
      }),
    );
    must(await save(actor, part.id, { knee: [yes] }));
    must(await world.do(useCases.returnPacket, actor, {}));
    const lines = must(await world.do(useCases.returnView, maren(), { packetId })).parts[0]!.lines;
    expect(lines.map((l) => [l.key, l.answer])).toEqual([
      ["knee", "Yes"],
      ["which", "swim"],
      ["many", "1"],
      ["often", "Weekly"],
    ]);
    expect((await world.repo.answers.ofPart(part.id)).values["which"]).toEqual([choice("swim")]);
  });

  it("asks for, charts and keeps a chart field of the practice's own", async () => {
    const requestId = world.request();
    const field = {
      requestId,
      label: "Practises with",
      section: "life",
      kind: "rows",
      columns: "Instrument\nHours a week",
    };
    for (const reader of await Promise.all([0, 1].map(() => world.do(useCases.addChartField, world.as("pia"), field))))
      must(reader);
    expect(
      await world.do(useCases.addChartField, world.as("pia"), { ...field, requestId: world.request(), columns: " " }),
    ).toMatchObject({
      error: { reason: "invalid", fields: { columns: expect.stringContaining("columns") as unknown } },
    });
    expect(
      await world.do(useCases.addChartField, world.as("salma"), { ...field, requestId: world.request() }),
    ).toMatchObject({ error: { reason: "not-allowed" } });
    must(
      await world.do(useCases.addChartField, world.as("pia"), { ...field, requestId: world.request(), kind: "text" }),
    );
    expect(must(await world.do(useCases.chartFields, maren(), {})).map((f) => f.field.key)).toEqual([
      "practises-with",
      "practises-with-2",
    ]);
    const group = {
      ...newLine("repeating", "plays"),
      text: "What do you play?",
      posting: { field: "practises-with", rule: "ask" },
      items: [
        {
          ...newLine("short-text", "what"),
          text: "Instrument",
          required: true,
          posting: { field: "instrument", rule: "ask" },
        },
      ],
    } as Item;
    const id = await made("Musicians", [
      group,
      {
        ...newLine("short-text", "more"),
        text: "And?",
        posting: { field: "practises-with-2", rule: "replace" },
      } as Item,
    ]);
    must(await world.do(useCases.renameChartField, world.as("pia"), { key: "practises-with-2", label: "Plays with" }));
    must(await world.do(useCases.retireChartField, world.as("pia"), { key: "practises-with", retired: true }));
    const { packetId, actor, part } = await sent("edda", id);
    must(
      await world.do(useCases.saveAnswers, actor, {
        partId: part.id,
        changes: [
          { kind: "rows", key: "plays", rows: ["a"] },
          { kind: "values", key: "plays:a/what", values: text("Cello") },
          { kind: "values", key: "more", values: text("A quartet") },
        ],
      }),
    );
    must(await world.do(useCases.returnPacket, actor, {}));
    const view = must(await world.do(useCases.reconcileView, maren(), { packetId }));
    must(
      await world.do(useCases.postToChart, maren(), {
        packetId,
        requestId: world.request(),
        revision: view.revision,
        decisions: [],
      }),
    );
    const chart = must(
      await world.do(useCases.chartView, maren(), { clientId: world.seeded.clients["edda"] }),
    ).sections.flatMap((s) => s.fields);
    expect(chart.find((f) => f.field.label === "Plays with")).toMatchObject({
      state: { current: { value: "A quartet" } },
    });
    expect(chart.find((f) => f.field.key === "practises-with")).toMatchObject({
      rows: [{ current: { value: { instrument: "Cello" } } }],
    });
    // Retired, it is not offered any more, and somebody else's empty chart does not show it.
    expect((await composer(id)).fields.filter((f) => f.own).map((f) => f.retired)).toEqual([true, false]);
    expect(
      must(await world.do(useCases.chartView, maren(), { clientId: world.seeded.clients["hugo"] }))
        .sections.flatMap((s) => s.fields)
        .some((f) => f.field.key === "practises-with"),
    ).toBe(false);
  });

  it("has the places to sign of a PDF signed where they stand on it, in one sealed file with the paper about it", async () => {
    const { id } = must(await upload(termsSheet(), world.request(), "Our terms.pdf"));
    const places = placesOf((await composer(id)).questionnaire);
    expect(places.map((p) => [p.text, p.signing?.onSheet])).toEqual([
      [
        "The client: I have read this sheet, and I agree to it.",
        { page: 1, left: 60, bottom: 100, width: 180, height: 50 },
      ],
      [
        "The practice: I have read this sheet, and I agree to it.",
        { page: 2, left: 300, bottom: 100, width: 180, height: 50 },
      ],
    ]);
    const [first, second] = places.map((p) => p.linkId);
    // The second is for somebody by name, who sees the sheet they sign, and no other.
    const named = { signer: "named" as const, signing: { ...places[1]!.signing, title: "Landlord" } };
    await rewrite(world, id, (q) => ({
      ...q,
      items: q.items.map((group) =>
        group.type === "group"
          ? { ...group, items: group.items.map((i) => (i.linkId === second ? ({ ...i, ...named } as Item) : i)) }
          : group,
      ),
    }));
    await rewrite(world, id, (q) => ({ ...q, description: "Read them first." }));
    const handedOff = must(await world.do(useCases.handOff, maren(), { id }));
    expect(fhirProblems(handedOff)).toEqual([]);
    // Of whichever version: each says which bytes it speaks of.
    const whole = JSON.stringify(handedOff);
    const digests = [...whole.matchAll(/(?<="valueString":")[0-9a-f]{64}/g)];
    expect(digests.length).toBeGreaterThan(1);
    for (const { index } of digests) {
      const forged = `${whole.slice(0, index)}${"0".repeat(64)}${whole.slice(index + 64)}`;
      const taken = await world.do(useCases.importQuestionnaire, maren(), { text: forged });
      expect(taken).toMatchObject({ error: { reason: "bad-file" } });
    }
    const requestId = world.request();
    const boss = { questionnaireId: id, place: second, who: "named", name: "Greta Lund", email: "greta@mill.example" };
    const order = { requestId, clientId: world.seeded.clients["layla"], questionnaireIds: [id], signers: [boss] };
    const { packetId } = must(await world.do(useCases.sendPacket, maren(), order));
    const layla = await world.enter(packetId);
    const part = must(await world.do(useCases.fillView, layla, {})).parts[0]!;
    const [called, agreed] = allQuestions(part.questionnaire) as [Question, Question];
    must(await save(layla, part.id, { [called.linkId]: text("ليلى حداد"), [agreed.linkId]: [yes] }));
    must(await world.sign(layla, { partId: part.id, place: first!, name: "ليلى حداد" }));
    must(await world.do(useCases.returnPacket, layla, {}));
    const { statement } = (await world.repo.signatures.ofPart(part.id))[0]!;
    expect(statement.sheet).toEqual({
      title: "Our terms.pdf",
      digest: createHash("sha256").update(termsSheet()).digest("hex"),
    });
    const greta = await enterAs(world, packetId, "Greta Lund");
    expect(must(await world.do(useCases.clientSheet, greta, { partId: part.id })).bytes).toEqual(termsSheet());
    const other = await sent("hugo", id);
    expect(await world.do(useCases.clientSheet, greta, { partId: other.part.id })).toMatchObject({
      error: { reason: "not-found" },
    });
    const view = must(await world.do(useCases.signerView, greta, {}));
    const digest = textDigest(signedText(view.places[0]!.questionnaire, view.places[0]!.answers, second!, "ar"));
    const sign = { partId: part.id, place: second, name: "Greta Lund", digest, agreed: true };
    must(await world.do(useCases.signAsSigner, greta, sign));
    await runSeals(world.app);
    const paper = must(await world.do(useCases.openPaper, maren(), { partId: part.id }));
    const path = onDisk(paper.bytes);
    expect(execFileSync("pdfsig", [path], { encoding: "utf8" })).toMatch(
      /Total document signed[\s\S]*Signature is Valid/,
    );
    expect(spawnSync("qpdf", ["--check", path], { encoding: "utf8" }).stdout).toMatch(/No syntax or stream/);
    // On the sheet's own pages, in their boxes; and nothing of the form is open any more.
    const inBox = (page: number, left: number, top: number): string =>
      execFileSync(
        "pdftotext",
        ["-f", `${page}`, "-l", `${page}`, "-x", `${left}`, "-y", `${top}`, "-W", "180", "-H", "50", path, "-"],
        { encoding: "utf8" },
      ).normalize("NFKC");
    expect(inBox(1, 60, 842 - 150)).toContain("ليلى حداد");
    expect(inBox(1, 90, 842 - 722)).toContain("ليلى حداد");
    expect(inBox(2, 300, 842 - 150)).toMatch(/Greta Lund[\s\S]*2026/);
    expect(inBox(1, 300, 842 - 150).trim()).toBe("");
    expect(Object.keys(fieldsByQpdf(paper.bytes))).toEqual(["Signature1"]);
    expect(execFileSync("pdftotext", [path, "-"], { encoding: "utf8" })).toMatch(
      /Our terms of the sheet[\s\S]*How it was signed/,
    );
  });
});

import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { consentYes, hugoIntake } from "../../demo/answers";
import { questionnaireFile, seedPackets } from "../../demo/seed";
import { linesOf, paragraph, plainText } from "../../src/core/notes";
import { must } from "../../demo/walk";
import { useCases, walkJournal } from "../../src/server";
import { foldChart, identityOf } from "../../src/core/chart";
import { allItems } from "../../src/core/questionnaire";
import { canonicalText } from "../../src/core/signing";
import { type StorageError, withoutValues } from "../../src/db/errors";
import type { Id } from "../../src/core/shared";
import { kinds, text, World } from "../support/world";

describe.each(kinds)("on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const count = (actions: string[], action: string): number => actions.filter((a) => a === action).length;

  describe("sending", () => {
    it("makes one packet and one letter of the same request, also when pressed twice at once", async () => {
      const requestId = world.request();
      const ids = await Promise.all([
        world.send("ines", requestId),
        world.send("ines", requestId),
        world.send("ines", requestId),
      ]);
      expect(new Set(ids).size).toBe(1);
      expect(await world.letters(ids[0]!, "packet")).toHaveLength(1);
      expect((await world.letters(ids[0]!, "packet"))[0]!.state).toBe("delivered");
    });
    it("goes to the guardian of a minor, by text to who has no e-mail, and to nobody who cannot be reached", async () => {
      const [noor] = await world.letters(await world.send("noor"), "packet");
      expect([noor!.to, noor!.toName]).toEqual(["leila.vance@mail.example", "Leila Vance"]);
      const [edda] = await world.letters(await world.send("edda"), "packet");
      expect([edda!.channel, edda!.to]).toEqual(["text", "020 7946 0708"]);
      expect(
        await world.do(useCases.sendPacket, world.as("maren"), {
          requestId: world.request(),
          visitId: world.seeded.visits["otto"],
          questionnaireIds: world.seeded.questionnaires,
        }),
      ).toMatchObject({ error: { reason: "no-contact" } });
    });
    it("stores the token as a digest only", async () => {
      const id = await world.send("priya");
      const token = await world.tokenOf(id);
      const { rows } = (await world.app.database.db.execute(sql`select digest from personal_link`)) as unknown as {
        rows: { digest: string }[];
      };
      expect(rows.every((r) => r.digest !== token && r.digest.length === 43)).toBe(true);
    });
  });

  describe("the door", () => {
    it("opens nothing for a stranger, an unknown link or a made-up packet", async () => {
      const id = await world.send("cosmo");
      const [part] = await world.repo.packets.parts(id);
      for (const useCase of [useCases.fillView, useCases.saveAnswers, useCases.returnPacket, useCases.signPart])
        expect(
          await world.do(useCase as typeof useCases.saveAnswers, world.stranger, { partId: part!.id, changes: [{}] }),
        ).toMatchObject({ error: { reason: "not-allowed" } });
      expect(await world.do(useCases.openLink, world.stranger, { token: "x".repeat(43) })).toEqual({
        ok: false,
        error: { reason: "closed" },
      });
    });
    it("takes a code once, for ten minutes, and only the newest", async () => {
      const id = await world.send("bram" in world.seeded.visits ? "bram" : "tamsin");
      const token = await world.tokenOf(id);
      const check = (code: string) => world.do(useCases.checkCode, world.stranger, { token, code });
      expect(await check("123456")).toMatchObject({ error: { reason: "code-expired" } });
      must(await world.do(useCases.sendCode, world.stranger, { token }));
      const first = await world.codeOf(id);
      expect(await world.do(useCases.sendCode, world.stranger, { token })).toMatchObject({ error: { reason: "wait" } });
      world.wait(10);
      expect(await check(first)).toMatchObject({ error: { reason: "code-expired" } });
      must(await world.do(useCases.sendCode, world.stranger, { token }));
      const second = await world.codeOf(id);
      if (second !== first) expect(await check(first)).toMatchObject({ error: { reason: "wrong-code", left: 4 } });
      world.wait(9.9);
      expect((await check(second)).ok).toBe(true);
      expect(await check(second)).toMatchObject({ error: { reason: "code-expired" } });
    });
    it("speaks the client's language from the first page, and what is signed is what was read", async () => {
      const id = await world.send("layla");
      expect(must(await world.do(useCases.openLink, world.stranger, { token: await world.tokenOf(id) })).language).toBe(
        "ar",
      );
      const client = await world.enter(id);
      const view = must(await world.do(useCases.fillView, client, {}));
      expect(view.language).toBe("ar");
      expect(view.parts.map((p) => p.questionnaire.language)).toEqual(["ar", "ar", "en"]);
      expect(JSON.stringify(view.parts)).not.toContain("translations");
      await world.fillAs(client, { AdultIntake: hugoIntake, ConsentToCare: consentYes });
      const consent = view.parts.find((p) => p.questionnaire.signed)!;
      must(await world.sign(client, { partId: consent.id, name: "ليلى حداد" }));
      const { statement, digest } = (await world.repo.signatures.ofPart(consent.id))[0]!;
      expect(statement.intent).toBe("بتوقيعي أوافق على النص أعلاه.");
      expect(statement.questionnaire.title).toBe(consent.questionnaire.title);
      expect(statement.texts).toEqual(allItems(consent.questionnaire).map(({ linkId, text }) => ({ linkId, text })));
      expect(digest).toBe(world.app.ports.sha256(canonicalText(statement)));
      // The answers stay in the practice's words: what was chosen in Arabic is the option that English readers know.
      expect(JSON.stringify(statement.answers)).not.toMatch(/\p{Script=Arabic}/u);
    });
    it("locks after five wrong codes, even all at once; the practice is told, and a fresh link opens it again", async () => {
      const id = await world.send("layla");
      const token = await world.tokenOf(id);
      must(await world.do(useCases.sendCode, world.stranger, { token }));
      const code = await world.codeOf(id);
      const wrong = code === "000000" ? "000001" : "000000";
      const tries = await Promise.all(
        Array.from({ length: 9 }, () => world.do(useCases.checkCode, world.stranger, { token, code: wrong })),
      );
      expect(tries.filter((t) => !t.ok && t.error.reason === "wrong-code")).toHaveLength(4);
      expect(tries.filter((t) => !t.ok && t.error.reason === "locked")).toHaveLength(1);
      expect(await world.do(useCases.checkCode, world.stranger, { token, code })).toMatchObject({
        error: { reason: "closed" },
      });
      const told = await world.letters(id, "locked");
      expect(told).toHaveLength(1);
      expect(told[0]!.to).toBe("salma@fernhollow.example");
      expect(told[0]!.body).not.toContain("حداد");
      const requestId = world.request();
      (
        await Promise.all(
          [0, 1].map(() => world.do(useCases.reissueLink, world.as("pia"), { packetId: id, requestId })),
        )
      ).forEach(must);
      expect(await world.letters(id, "packet")).toHaveLength(2);
      expect(await world.do(useCases.openLink, world.stranger, { token })).toMatchObject({
        error: { reason: "closed" },
      });
      await world.enter(id);
    });
    it("closes when the link expires, and a fresh link shuts out devices that were in", async () => {
      const id = await world.send("tamsin");
      const client = await world.enter(id);
      expect((await world.do(useCases.fillView, client, {})).ok).toBe(true);
      const token = await world.tokenOf(id);
      const before = world.time;
      world.wait(15 * 24 * 60);
      expect(await world.do(useCases.openLink, world.stranger, { token })).toMatchObject({
        error: { reason: "closed" },
      });
      expect(await world.do(useCases.returnPacket, client, {})).toMatchObject({
        error: { reason: "closed", state: "lapsed" },
      });
      world.time = before;
    });
    it("asks for no more than six codes an hour", async () => {
      const id = await world.send("ines");
      const token = await world.tokenOf(id);
      const outcomes: string[] = [];
      for (let index = 0; index < 8; index++) {
        const sent = await world.do(useCases.sendCode, world.stranger, { token });
        outcomes.push(sent.ok ? "sent" : sent.error.reason);
        world.wait(1);
      }
      expect(outcomes.filter((o) => o === "sent")).toHaveLength(6);
      expect(outcomes.at(-1)).toBe("too-many");
    });
  });

  describe("answering", () => {
    it("returns once, checks everything again, and nothing changes after it, whatever comes at the same time", async () => {
      const id = await world.send("hugo");
      await world.fill(id, undefined, false);
      world.wait(1);
      const client = await world.enter(id);
      const parts = await world.repo.packets.parts(id);
      const save = (value: string) =>
        world.do(useCases.saveAnswers, client, {
          partId: parts[0]!.id,
          changes: [{ kind: "values", key: "occupation", values: text(value) }],
        });
      const mixed = await Promise.all([
        save("before"),
        world.do(useCases.returnPacket, client, {}),
        save("late 1"),
        world.do(useCases.returnPacket, client, {}),
        save("late 2"),
        world.do(useCases.returnPacket, client, {}),
      ]);
      expect([1, 3, 5].every((i) => mixed[i]!.ok)).toBe(true);
      const actions = await world.journal(`packet:${id}`);
      expect([count(actions, "packet.return"), count(actions, "packet.return-repeated")]).toEqual([1, 2]);
      const kept = (await world.repo.answers.ofPart(parts[0]!.id)).values["occupation"];
      expect(await save("after")).toMatchObject({ error: { reason: "closed", state: "returned" } });
      expect((await world.repo.answers.ofPart(parts[0]!.id)).values["occupation"]).toEqual(kept);
    });
    it("is refused with what is missing, and a signature stands only for the answers it was put under", async () => {
      const id = await world.send("hugo");
      const client = await world.enter(id);
      const first = await world.do(useCases.returnPacket, client, {});
      expect(
        !first.ok &&
          first.error.reason === "incomplete" &&
          first.error.parts.map((p) => [p.problems.length > 0, p.unsigned]),
      ).toEqual([
        [true, false],
        [true, true],
        [true, false],
      ]);
      world.wait(1);
      await world.fill(id, undefined, false);
      const consent = (await world.repo.packets.parts(id))[1]!;
      must(
        await world.do(useCases.saveAnswers, client, {
          partId: consent.id,
          changes: [{ kind: "values", key: "agree-care", values: [{ type: "boolean", value: false }] }],
        }),
      );
      expect(await world.do(useCases.returnPacket, client, {})).toMatchObject({
        error: { reason: "incomplete", parts: [{ partId: consent.id, unsigned: true, problems: [] }] },
      });
      must(await world.sign(client, { partId: consent.id, name: "Hugo Lindgren" }));
      must(await world.do(useCases.returnPacket, client, {}));
      const signature = (await world.repo.signatures.ofPart(consent.id))[0]!;
      expect(world.app.ports.sha256(canonicalText(signature.statement))).toBe(signature.digest);
      expect(signature.statement.texts.map((t) => t.text).join()).toContain("We talk with you");
    });
    it("is not taken from a device that a fresh link shut out, even when it was let in a moment ago", async () => {
      const packetId = await world.send("edda");
      const before = await world.enter(packetId);
      const [intake] = await world.repo.packets.parts(packetId);
      const save = (value: string) =>
        world.do(useCases.saveAnswers, before, {
          partId: intake!.id,
          changes: [{ kind: "values", key: "occupation", values: text(value) }],
        });
      must(await save("Gardener"));
      must(await world.do(useCases.reissueLink, world.as("maren"), { packetId, requestId: world.request() }));
      const lines = (await world.journal(`packet:${packetId}`)).length;
      expect(await save("Somebody else")).toMatchObject({ error: { reason: "not-allowed" } });
      expect((await world.repo.answers.ofPart(intake!.id)).values["occupation"]).toEqual(text("Gardener"));
      expect((await world.journal(`packet:${packetId}`)).length).toBe(lines);
    });
    it("drops what was typed into questions that ended up hidden", async () => {
      const id = await world.send("hugo");
      await world.fill(id, undefined, false);
      world.wait(1);
      const client = await world.enter(id);
      const [intake] = await world.repo.packets.parts(id);
      const change = (key: string, values: unknown) =>
        world.do(useCases.saveAnswers, client, { partId: intake!.id, changes: [{ kind: "values", key, values }] });
      must(await change("had-operations", [{ type: "boolean", value: true }]));
      must(await change("operations", text("A secret")));
      must(await change("had-operations", [{ type: "boolean", value: false }]));
      must(await world.do(useCases.returnPacket, client, {}));
      expect((await world.repo.answers.ofPart(intake!.id)).values).not.toHaveProperty("operations");
    });
    it("keeps a client out of everybody else's packet", async () => {
      const mine = await world.enter(await world.send("hugo"));
      const [theirs] = await world.repo.packets.parts(await world.send("priya"));
      for (const [useCase, input] of [
        [
          useCases.saveAnswers,
          { partId: theirs!.id, changes: [{ kind: "values", key: "first-name", values: text("x") }] },
        ],
        [useCases.signPart, { partId: theirs!.id, name: "Me Myself", agreed: true, digest: "0".repeat(64) }],
      ] as const)
        expect(await world.do(useCase as typeof useCases.saveAnswers, mine, input)).toMatchObject({
          error: { reason: "not-found" },
        });
      expect(await world.do(useCases.returns as never, mine, {})).toMatchObject({ error: { reason: "not-allowed" } });
    });
  });

  describe("the chart", () => {
    const view = (packetId: string) => world.do(useCases.reconcileView, world.as("maren"), { packetId }).then(must);
    const post = (
      packetId: string,
      revision: number,
      lines: { id: string; suggested: string | undefined }[],
      requestId = world.request(),
    ) =>
      world.do(useCases.postToChart, world.as("maren"), {
        packetId,
        requestId,
        revision,
        decisions: lines.map((l) => ({ line: l.id, choice: l.suggested ?? "take" })),
      });

    it("is posted once, refuses decisions about a chart that moved, and keeps the projection equal to the fold", async () => {
      const [first, second] = [await world.send("hugo"), await world.send("hugo")];
      for (const id of [first, second]) {
        world.wait(1);
        await world.fill(id);
      }
      const [va, vb] = [await view(first), await view(second)];
      const requestId = world.request();
      const both = await Promise.all([
        post(first, va.revision, [...va.lines], requestId),
        post(first, va.revision, [...va.lines], requestId),
      ]);
      expect(both.every((r) => r.ok)).toBe(true);
      expect(new Set(both.map((r) => r.ok && r.value.postingId)).size).toBe(1);
      expect(await post(first, va.revision, [...va.lines])).toMatchObject({ error: { reason: "already-posted" } });
      expect(await post(second, vb.revision, [...vb.lines])).toMatchObject({ error: { reason: "chart-moved" } });
      const again = await view(second);
      must(await post(second, again.revision, [...again.lines]));
      const hugo = world.seeded.clients["hugo"]!;
      const chart = foldChart(await world.repo.charts.entries(hugo));
      expect(await world.repo.clients.byId((await world.app.practice())!.id, hugo)).toMatchObject(identityOf(chart));
      expect(chart.fields["sleep-hours"]!.current!.source).toMatchObject({ kind: "answer", key: "sleep-hours" });
    });
    it("is reversed once by a new entry, and the value before it stands again", async () => {
      const id = await world.send("priya");
      await world.fill(id);
      const priya = world.seeded.clients["priya"]!;
      const before = foldChart(await world.repo.charts.entries(priya));
      const reconcile = await view(id);
      const { postingId } = must(
        await world.do(useCases.postToChart, world.as("maren"), {
          packetId: id,
          requestId: world.request(),
          revision: reconcile.revision,
          decisions: reconcile.lines.map((l) => ({ line: l.id, choice: "take" })),
        }),
      );
      expect(identityOf(foldChart(await world.repo.charts.entries(priya))).firstName).toBe("Hugo");
      const reverse = (requestId: string) =>
        world.do(useCases.reverse, world.as("maren"), { clientId: priya, postingId, requestId });
      const requestId = world.request();
      must(await reverse(requestId));
      must(await reverse(requestId));
      expect(await reverse(world.request())).toMatchObject({ error: { reason: "already-reversed" } });
      const now = foldChart(await world.repo.charts.entries(priya));
      expect(
        Object.fromEntries(Object.entries(now.fields).flatMap(([k, f]) => (f.current ? [[k, f.current.value]] : []))),
      ).toEqual(Object.fromEntries(Object.entries(before.fields).map(([k, f]) => [k, f.current!.value])));
      expect((await world.repo.clients.byId((await world.app.practice())!.id, priya))!.firstName).toBe("Priya");
    });
    it("and every other ledger refuse update, delete and truncate in the database itself", async () => {
      const refuse = (statement: string) =>
        withoutValues(() => world.app.database.db.transaction((tx) => tx.execute(sql.raw(statement)))).then(
          () => "done",
          (e: unknown) => (e as StorageError).code,
        );
      for (const table of ["chart_entry", "posting", "journal", "signature", "questionnaire_version"]) {
        const column = {
          chart_entry: "by",
          posting: "by",
          journal: "actor",
          signature: "device",
          questionnaire_version: "created_by",
        }[table]!;
        expect(await refuse(`update ${table} set ${column} = 'x'`), table).toBe("23001");
        expect(await refuse(`delete from ${table}`), table).toBe("23001");
      }
      expect(await refuse("truncate chart_entry")).toBe("23001");
      expect(await refuse("truncate journal")).toBe("23001");
    });
    it("drafts one note of one press, and never overwrites a note somebody else saved", async () => {
      const id = await world.send("hugo");
      world.wait(1);
      await world.fill(id);
      const requestId = world.request();
      const begin = () => world.do(useCases.beginNote, world.as("maren"), { packetId: id, requestId }).then(must);
      const [one, two] = await Promise.all([begin(), begin()]);
      expect(one.noteId).toBe(two.noteId);
      const view = async () => must(await world.do(useCases.noteView, world.as("maren"), { noteId: one.noteId }));
      const first = await view();
      const save = (revision: number, words: string, who: "maren" | "tobias" = "maren") =>
        world.do(useCases.saveNote, world.as(who), {
          noteId: one.noteId,
          revision,
          body: { type: "doc", content: [paragraph(words), ...first.content.body.content] },
          takeHome: first.content.takeHome,
        });
      const saves = await Promise.all([save(1, "mine"), save(1, "theirs")]);
      expect(saves.map((s) => (s.ok ? "saved" : s.error.reason)).sort()).toEqual(["note-moved", "saved"]);
      expect(first.visit?.visitType).toBe("Follow-up");
      const quoted = first.content.body.content.flatMap((block) =>
        block.type === "quoted" ? [first.content.quotes[block.attrs.quote]!.answer] : [],
      );
      expect([quoted.length > 10, quoted.includes("")]).toEqual([true, false]);
      // What somebody else changes bears their name, and what stood there before stays.
      must(await save(2, "somebody else's", "tobias"));
      const changed = await view();
      expect([changed.author, changed.changedBy]).toEqual(["Maren Holloway", "Tobias Renn"]);
      const versions = await world.repo.notes.versions(one.noteId);
      const said = versions.map(({ content }) => plainText(linesOf(content.body)).split("\n")[0]);
      expect(said).toEqual([expect.not.stringMatching(/mine|theirs/), expect.stringMatching(/mine|theirs/)]);
      expect(versions.map((v) => v.by)).toEqual([world.seeded.staff["maren"], world.seeded.staff["maren"]]);
      // While one person types it is kept now and then, not with every pause.
      const before = world.time;
      for (let revision = 3; revision < 9; revision++) {
        world.wait(2);
        must(await save(revision, `typed on ${revision}`, "tobias"));
      }
      expect((await world.repo.notes.versions(one.noteId)).map((v) => v.revision)).toEqual([1, 2, 6]);
      world.time = before;
      await expect(world.app.database.db.execute(sql`update note_version set revision = 9`)).rejects.toThrow();
    });
  });

  describe("the library", () => {
    it("stores nothing of a bad file, and nothing twice of a good one; packets stay on their version", async () => {
      const before = await world.repo.questionnaires.all((await world.app.practice())!.id);
      const bring = (body: string) => world.do(useCases.importQuestionnaire, world.as("pia"), { text: body });
      expect(await bring('{"resourceType":"Questionnaire"}')).toMatchObject({ error: { reason: "bad-file" } });
      expect(await bring(questionnaireFile("phq-9").replace('"phq9-total"', '"mood-field"'))).toMatchObject({
        error: { reason: "bad-file", problems: [{ problem: 'No chart field is called "mood-field".' }] },
      });
      expect(await bring(questionnaireFile("phq-9"))).toMatchObject({ value: { already: true } });
      expect(await world.repo.questionnaires.all((await world.app.practice())!.id)).toEqual(before);
      const id = await world.send("hugo");
      const changed = questionnaireFile("phq-9").replace("How you have been: PHQ-9", "How you are: PHQ-9");
      expect(await bring(changed)).toMatchObject({
        error: { reason: "here-already", title: "How you have been: PHQ-9" },
      });
      const { id: phq } = must(
        await world.do(useCases.importQuestionnaire, world.as("pia"), { text: changed, as: "new-version" }),
      );
      expect(must(await world.do(useCases.questionnaireView, world.as("pia"), { id: phq }))).toMatchObject({
        versions: [{ number: 1, inUse: true }],
        draftChanges: [{ words: "Title: “How you have been: PHQ-9” is now “How you are: PHQ-9”" }],
      });
      expect(must(await world.do(useCases.putInUse, world.as("pia"), { id: phq }))).toEqual({ version: 2 });
      const copy = must(
        await world.do(useCases.importQuestionnaire, world.as("pia"), {
          text: changed.replace("How you are", "Otherwise"),
          as: "copy",
        }),
      );
      expect(copy.id).not.toBe(phq);
      const titles = async (packetId: Id<"Packet">) =>
        must(await world.do(useCases.packetJourney, world.as("pia"), { packetId })).titles[2];
      expect([await titles(id), await titles(await world.send("hugo"))]).toEqual([
        "How you have been: PHQ-9",
        "How you are: PHQ-9",
      ]);
    });
  });

  describe("the journal and what lies on the disk", () => {
    it("has a row for each thing done, in a chain that breaks when a row is changed behind its back", async () => {
      await seedPackets(world.app, world.seeded);
      const actions = new Set(await world.journal());
      for (const action of [
        "packet.send",
        "door.code-sent",
        "door.passed",
        "door.wrong-code",
        "door.locked",
        "answer.save",
        "signature",
        "packet.return",
        "reconcile.view",
        "chart.post",
        "chart.reverse",
        "note.save",
        "questionnaire.import",
      ])
        expect(actions, action).toContain(action);
      expect((await walkJournal(world.app)).broken).toBeUndefined();
      const db = world.app.database.db;
      await db.execute(sql`alter table journal disable trigger all`);
      await db.execute(sql`update journal set address = 'elsewhere' where seq = 7`);
      expect((await walkJournal(world.app)).broken).toEqual({ seq: 7, fault: "row-changed" });
      await db.execute(sql`update journal set address = '127.0.0.1' where seq = 7`);
      await db.execute(sql`alter table journal enable trigger all`);
    });
    it("shows no name, contact, answer, code or token in any column in clear", async () => {
      const id = await world.send("ines");
      const { rows: tables } = (await world.app.database.db.execute(
        sql`select tablename from pg_tables where schemaname = 'public'`,
      )) as unknown as { rows: { tablename: string }[] };
      let all = "";
      for (const { tablename } of tables) {
        const { rows } = (await world.app.database.db.execute(
          sql.raw(`select t::text as line from "${tablename}" t`),
        )) as unknown as { rows: { line: string }[] };
        all += rows
          .map((r) => r.line.replace(/\\x([0-9a-f]+)/g, (_, hex: string) => Buffer.from(hex, "hex").toString("latin1")))
          .join("\n");
      }
      expect(all.length).toBeGreaterThan(100_000);
      for (const secret of [
        "Halvorsen",
        "Lindgren",
        "lindgren@",
        "020 7946",
        "Salbutamol",
        "flat most days",
        'More than half the days"}}',
        "Melatonin",
        await world.tokenOf(id),
      ]) {
        const found = all.split("\n").filter((l) => l.includes(secret) && !l.includes("resourceType"));
        expect(found, secret).toEqual([]);
      }
    });
  });
});

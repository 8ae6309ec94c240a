import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { demoPassword } from "../../demo/scenario";
import { runSeals } from "../../src/jobs";
import { makeIdentity, ownTimeStamps, sealPdf } from "../../src/adapters/seal";
import { renderOwnPaper } from "../../src/adapters/own-paper";
import { staffActor, useCases } from "../../src/server";
import { sealPart } from "../../src/server/seals";
import { textDigest } from "../../src/core/signing";
import type { Id, Instant } from "../../src/core/shared";
import type { ClientActor, StaffActor } from "../../src/usecases/kit";
import { readIn } from "../../src/usecases/signing/standing";
import { consentOf, enterAs, place, rewrite, sendTo, shortText, tokenTo } from "../support/signing";
import { fhirProblems } from "../support/fhir";
import { kinds, text, World } from "../support/world";

const blank = () =>
  renderOwnPaper({
    practice: "Elsewhere",
    address: "",
    logo: undefined,
    language: "en",
    person: "Somebody",
    at: "2026-11-25T08:10:00Z" as Instant,
    zone: "UTC",
    locale: "en",
    parts: [],
  });

describe.each(kinds)("signing on %s", (kind) => {
  let world: World;
  let folder: string;
  beforeAll(async () => {
    world = await World.open(kind);
    folder = mkdtempSync(join(tmpdir(), "signing-"));
  });
  afterAll(async () => {
    rmSync(folder, { recursive: true, force: true });
    await world.close();
  });
  const maren = () => world.as("maren") as StaffActor;
  const client = (name: string): Id<"Client"> => world.seeded.clients[name]!;
  const signing = async (packetId: Id<"Packet">) => must(await world.do(useCases.packetSigning, maren(), { packetId }));
  const states = async (packetId: Id<"Packet">) => (await signing(packetId)).parts[0]!.lines.map((l) => l.state);
  const file = (name: string, bytes: Uint8Array): string => {
    const path = join(folder, name);
    writeFileSync(path, bytes);
    return path;
  };
  const save = async (actor: ClientActor, key: string, value: string) => {
    const { parts } = must(await world.do(useCases.fillView, actor, {}));
    const changes = [{ kind: "values", key, values: text(value) }];
    must(await world.do(useCases.saveAnswers, actor, { partId: parts[0]!.id, changes }));
  };
  /** Signs as somebody whose turn it is. */
  const signTurn = async (actor: ClientActor, name: string, more: object = {}) => {
    const view = must(await world.do(useCases.signerView, actor, {}));
    const at = view.places.find((p) => p.turn && !p.signedAt) ?? view.places[0]!;
    const packet = await world.repo.packets.part((await world.app.practice())!.id, at.partId);
    const questionnaire = await world.repo.versions.definition(packet!.part.versionId);
    const digest = textDigest(readIn(questionnaire, at.answers, at.place, view.language));
    const given = { partId: at.partId, place: at.place, name, digest, agreed: true, ...more };
    return world.do(useCases.signAsSigner, actor, given);
  };
  /** A session of Maren's, since a stored signature is released in one. */
  const session = async (): Promise<StaffActor> => {
    const email = "maren@fernhollow.example";
    const signed = must(await world.do(useCases.signIn, world.stranger, { email, password: demoPassword }));
    return (await staffActor(world.app, signed.token, { address: "192.0.2.7", device: "test" })) as StaffActor;
  };
  /** A consent that the client, their employer by what they typed, and the practitioner sign one after another. */
  const threefold = () =>
    consentOf(world, [
      shortText("employer", "Who is your employer?", { required: true } as never),
      shortText("employer-mail", "Their e-mail address?", { required: true, keyboard: "email" } as never),
      place("own", "client"),
      place("boss", "named", {
        title: "Employer",
        from: { kind: "answers", name: "employer", email: "employer-mail" },
      }),
      place("ours", "practitioner"),
    ]);
  const returned = async (questionnaireId: Id<"Questionnaire">) => {
    const packetId = await sendTo(world, client("hugo"), [questionnaireId]);
    const hugo = await world.enter(packetId);
    await save(hugo, "employer", "Greta Lund");
    await save(hugo, "employer-mail", "greta@mill.example");
    const { parts } = must(await world.do(useCases.fillView, hugo, {}));
    must(await world.sign(hugo, { partId: parts[0]!.id, place: "own", name: "Hugo Lindgren" }));
    must(await world.do(useCases.returnPacket, hugo, {}));
    return { packetId, hugo, partId: parts[0]!.id };
  };

  it("goes from one signer to the next, each by their own link and door, and is sealed once the last has signed", async () => {
    const { packetId, partId } = await returned(await threefold());
    expect(await states(packetId)).toEqual(["signed", "turn", "waits"]);
    const [letter] = await world.letters(packetId, "sign");
    expect([letter!.to, letter!.toName]).toEqual(["greta@mill.example", "Greta Lund"]);
    // Nothing of whose or what it is stands in the letter.
    expect(`${letter!.subject} ${letter!.body}`).not.toMatch(/Hugo|Lindgren|Consent/);
    const greta = await enterAs(world, packetId, "Greta Lund");
    const view = must(await world.do(useCases.signerView, greta, {}));
    expect([view.person, view.client, view.own, view.places.length]).toEqual(["Greta Lund", "Hugo Lindgren", false, 1]);
    // What fills in opens nothing for who signs.
    for (const other of [useCases.fillView, useCases.clientPaper, useCases.returnPacket] as const)
      expect(await world.do(other as typeof useCases.fillView, greta, {})).toMatchObject({
        error: { reason: "not-allowed" },
      });
    expect(await signTurn(greta, "Greta Lund", { digest: "0".repeat(64) })).toMatchObject({
      error: { reason: "changed" },
    });
    expect(await signTurn(greta, "Greta Lund", { agreed: false })).toMatchObject({ error: { reason: "invalid" } });
    must(await signTurn(greta, "Greta Lund"));
    expect(await signTurn(greta, "Greta Lund")).toMatchObject({ error: { reason: "not-signed-here" } });
    expect(await states(packetId)).toEqual(["signed", "signed", "turn"]);
    // Nothing is sealed while somebody is missing.
    expect(await runSeals(world.app)).toBe(0);

    // The practitioner: a stored signature, released by their password for a while, in this session alone.
    const me = await session();
    const [waiting] = must(await world.do(useCases.forYouToSign, me, {})).waiting;
    expect([waiting!.clientName, waiting!.before.map((b) => b.name)]).toEqual([
      "Hugo Lindgren",
      ["Hugo Lindgren", "Greta Lund"],
    ]);
    const sign = { packetId, partId, place: "ours", digest: waiting!.digest };
    expect(await world.do(useCases.signAsStaff, me, sign)).toMatchObject({ error: { reason: "not-released" } });
    const mark = { way: "typed", name: "Maren Holloway" };
    expect(await world.do(useCases.keepMark, me, { ...mark, password: "wrong" })).toMatchObject({
      error: { reason: "wrong" },
    });
    must(await world.do(useCases.keepMark, me, { ...mark, password: demoPassword }));
    expect(await world.do(useCases.releaseMark, me, { password: "no" })).toMatchObject({ error: { reason: "wrong" } });
    must(await world.do(useCases.releaseMark, me, { password: demoPassword }));
    const other = await session();
    expect(await world.do(useCases.signAsStaff, other, sign)).toMatchObject({ error: { reason: "not-released" } });
    must(await world.do(useCases.signAsStaff, me, sign));
    expect(await world.do(useCases.signAsStaff, me, sign)).toMatchObject({ error: { reason: "not-your-turn" } });
    expect((await signing(packetId)).parts[0]).toMatchObject({ complete: true, sealing: true, paper: undefined });

    // Sealed once, however many try.
    expect((await Promise.all([runSeals(world.app), runSeals(world.app)]))[0]).toBe(1);
    expect(await runSeals(world.app)).toBe(0);
    expect((await signing(packetId)).parts[0]).toMatchObject({ sealing: false, paper: { number: 1, revision: 1 } });
    const paper = must(await world.do(useCases.openPaper, maren(), { partId }));
    const path = file("threefold.pdf", paper.bytes);
    expect(execFileSync("pdfsig", [path], { encoding: "utf8" })).toMatch(
      /ETSI\.CAdES\.detached[\s\S]*Total document signed[\s\S]*Signature is Valid/,
    );
    expect(spawnSync("qpdf", ["--check", path], { encoding: "utf8" }).stdout).toMatch(
      /No syntax or stream encoding errors/,
    );
    const words = execFileSync("pdftotext", ["-layout", path, "-"], { encoding: "utf8" });
    for (const one of ["Greta Lund", "greta@mill.example", "Hugo Lindgren", "Employer", "Maren Holloway", partId])
      expect(words).toContain(one);
    // Tagged, in the order it is read (ISO 32000-1, 14.7; by poppler's pdfinfo).
    expect(execFileSync("pdfinfo", [path], { encoding: "utf8" })).toMatch(/Tagged:\s+yes/);
    const tagged = execFileSync("pdfinfo", ["-struct-text", path], { encoding: "utf8" });
    const order = [
      "Who is your employer?",
      "greta@mill.example",
      "I agree (own).",
      "I agree (boss).",
      "How it was signed",
    ];
    const places = order.map((one) => tagged.indexOf(one));
    expect(
      places.every((found, index) => found > (places[index - 1] ?? 0)),
      places.join(" "),
    ).toBe(true);
    expect(words.indexOf("Who is your employer?")).toBeLessThan(words.indexOf("I agree (own)."));
    expect(words.indexOf("I agree (own).")).toBeLessThan(words.indexOf("I agree (boss)."));

    // Everybody who signed hears where their copy is, behind their door; it is no open attachment.
    const copies = await world.letters(packetId, "signed");
    expect(copies.map((c) => c.toName).sort()).toEqual(["Greta Lund", "Hugo Lindgren"]);
    expect(copies.every((c) => (c.files ?? []).length === 0)).toBe(true);
    const again = await enterAs(world, packetId, "Greta Lund", "signed");
    expect(must(await world.do(useCases.signedCopy, again, { partId })).bytes).toEqual(paper.bytes);

    // The check: ours and unchanged, and after one byte neither.
    const verdict = must(await world.do(useCases.checkPaper, maren(), { bytes: paper.bytes }));
    expect(verdict).toMatchObject({
      outcome: "unchanged",
      seals: [{ ours: true, intact: true, known: true }],
      paper: {
        packetId,
        consent: "stands",
        signatures: [
          { signer: "Hugo Lindgren", stands: true },
          { signer: "Greta Lund", stands: true },
          { signer: "Maren Holloway", stands: true },
        ],
      },
    });
    const bad = new Uint8Array(paper.bytes);
    bad[1_000] = bad[1_000]! ^ 1;
    expect(must(await world.do(useCases.checkPaper, maren(), { bytes: bad }))).toMatchObject({
      outcome: "changed",
      seals: [{ ours: true, intact: false, known: false }],
      paper: undefined,
    });
    expect(execFileSync("pdfsig", [file("bad.pdf", bad)], { encoding: "utf8" })).toMatch(/Digest Mismatch/);
    const longer = new Uint8Array([...paper.bytes, ...Buffer.from("\n% more\n")]);
    expect(must(await world.do(useCases.checkPaper, maren(), { bytes: longer }))).toMatchObject({
      outcome: "added",
      seals: [{ intact: true, known: true }],
    });
    // A page put behind by somebody who seals it themselves: every seal holds, and it is not what was signed.
    const theirs = await makeIdentity("Fernhollow Care Rooms", "seal", world.time);
    const stamp = ownTimeStamps(await makeIdentity("Fernhollow", "time-stamp", world.time), world.time);
    const forged = {
      identity: theirs,
      stamp,
      name: "Fernhollow",
      reason: "Signed",
      at: world.time,
      pages: await blank(),
    };
    expect(
      must(await world.do(useCases.checkPaper, maren(), { bytes: await sealPdf(paper.bytes, forged) })),
    ).toMatchObject({
      outcome: "added",
      seals: [
        { ours: true, intact: true, known: true, toEnd: false },
        { ours: false, intact: true, known: false, toEnd: true },
      ],
    });
    const strange = must(await world.do(useCases.checkPaper, maren(), { bytes: await sealPdf(await blank(), forged) }));
    expect([strange.outcome, strange.paper]).toEqual(["not-ours", undefined]);
    // The journal tells each step, and holds.
    const lines = await world.journal(`packet:${packetId}`);
    for (const step of ["signature.ask", "door.passed", "signature", "consent.give", "paper.seal", "paper.copies"])
      expect(lines).toContain(step);
    expect(must(await world.do(useCases.checkJournal, maren(), {}))).toMatchObject({ done: true, broken: undefined });
  });

  it("asks nobody early, twice or after it went back; somebody else may sign, decline, or sign on paper", async () => {
    const { packetId, partId } = await returned(await threefold());
    const first = await tokenTo(world, packetId, "Greta Lund");
    const before = await enterAs(world, packetId, "Greta Lund");
    // Written to again: what they had opens nothing any more.
    world.wait(5);
    const { signerId } = (await signing(packetId)).parts[0]!.lines[1]!;
    must(await world.do(useCases.nudgeSigner, maren(), { packetId, signerId }));
    expect(await world.do(useCases.openLink, world.stranger, { token: first })).toMatchObject({
      error: { reason: "closed" },
    });
    expect(await world.do(useCases.signerView, before, {})).toMatchObject({ error: { reason: "not-found" } });
    // Whose turn it is not cannot be written to, nor by ids of another packet.
    const ours = (await signing(packetId)).parts[0]!.lines[2]!.signerId;
    expect(await world.do(useCases.nudgeSigner, maren(), { packetId, signerId: ours })).toMatchObject({
      error: { reason: "not-their-turn" },
    });
    const other = await returned(await threefold());
    expect(await world.do(useCases.nudgeSigner, maren(), { packetId: other.packetId, signerId })).toMatchObject({
      error: { reason: "not-found" },
    });
    // A signer's device signs at its own places of its own packet alone.
    const greta = await enterAs(world, packetId, "Greta Lund");
    const view = must(await world.do(useCases.signerView, greta, {}));
    const forged = { place: "ours", name: "Greta Lund", digest: "0".repeat(64), agreed: true };
    for (const input of [
      { ...forged, partId },
      { ...forged, partId: other.partId, place: "boss" },
    ])
      expect(await world.do(useCases.signAsSigner, greta, input)).toMatchObject({
        error: { reason: "not-signed-here" },
      });
    expect(await world.do(useCases.signedCopy, greta, { partId: other.partId })).toMatchObject({
      error: { reason: "not-found" },
    });
    // They decline: staff see why, and name somebody else with a reason; the link of the first is dead then.
    const at = { partId: view.places[0]!.partId, place: "boss" };
    must(await world.do(useCases.declineToSign, greta, { ...at, reason: "I left the mill." }));
    expect(await signTurn(greta, "Greta Lund")).toMatchObject({ error: { reason: "declined" } });
    expect((await signing(packetId)).parts[0]!.lines[1]).toMatchObject({
      state: "declined",
      reason: "I left the mill.",
    });
    expect((await world.letters(packetId, "alert")).length).toBe(1);
    const named = { packetId, partId, place: "boss", who: "named", name: "Nils Berg", email: "nils@mill.example" };
    expect(await world.do(useCases.replaceSigner, maren(), named)).toMatchObject({ error: { reason: "invalid" } });
    must(await world.do(useCases.replaceSigner, maren(), { ...named, reason: "She left." }));
    must(await world.do(useCases.replaceSigner, maren(), { ...named, reason: "She left." }));
    expect((await world.letters(packetId, "sign")).filter((l) => l.toName === "Nils Berg")).toHaveLength(1);
    expect(await world.do(useCases.signerView, greta, {})).toMatchObject({ error: { reason: "not-found" } });
    const nils = await enterAs(world, packetId, "Nils Berg");
    must(await world.do(useCases.askForPaper, nils, at));
    must(await world.do(useCases.askForPaper, nils, at));
    expect((await world.letters(packetId, "alert")).length).toBe(2);
    expect(await states(packetId)).toEqual(["signed", "paper", "waits"]);
    must(await world.do(useCases.recordPaperSignature, maren(), { packetId, ...at, name: "Nils Berg" }));
    expect(
      await world.do(useCases.recordPaperSignature, maren(), { packetId, ...at, name: "Nils Berg" }),
    ).toMatchObject({
      error: { reason: "signed" },
    });
    // What it says of itself is true: nobody signed in or proved anything.
    const sheet = (await world.repo.signatures.ofPart(partId)).find((s) => s.place === "boss");
    expect(sheet?.evidence).toMatchObject({ proof: "sheet", electronic: false });
    // Two at the same second: one signature, and the other is told.
    const [me, again] = [await session(), await session()];
    for (const one of [me, again]) must(await world.do(useCases.releaseMark, one, { password: demoPassword }));
    const digest = must(await world.do(useCases.forYouToSign, me, {})).waiting.find(
      (w) => w.packetId === packetId,
    )!.digest;
    const sign = { packetId, partId, place: "ours", digest };
    const both = await Promise.all([me, again].map((one) => world.do(useCases.signAsStaff, one, sign)));
    expect(both.filter((r) => r.ok)).toHaveLength(1);
    expect((await world.repo.signatures.ofPart(partId)).filter((s) => s.place === "ours")).toHaveLength(1);
  });

  it("takes who signs as they were chosen on sending, and writes to them at their turn alone", async () => {
    const items = [shortText("a", "A word?"), place("own", "client"), place("boss", "named", { title: "Employer" })];
    const id = await consentOf(world, items);
    const options = must(await world.do(useCases.sendOptions, maren(), { clientId: client("hugo") }));
    expect(options.questionnaires.find((q) => q.id === id)!.chooses).toMatchObject([
      { place: "boss", kind: "named", title: "Employer" },
    ]);
    const boss = { questionnaireId: id, place: "boss", who: "named", name: "Greta Lund", email: "greta@mill.example" };
    const send = { clientId: client("hugo"), questionnaireIds: [id] };
    // Half of somebody, a place that nobody chooses for, or a questionnaire that is not sent: nothing goes out.
    for (const wrong of [
      { ...boss, email: "" },
      { ...boss, place: "own" },
      { ...boss, who: "relation" },
      { ...boss, questionnaireId: world.request() },
    ])
      expect(
        await world.do(useCases.sendPacket, maren(), { ...send, requestId: world.request(), signers: [wrong] }),
      ).toMatchObject({ error: { reason: "no-signer" } });
    const asked = { ...send, requestId: world.request(), signers: [boss] };
    const { packetId } = must(await world.do(useCases.sendPacket, maren(), asked));
    must(await world.do(useCases.sendPacket, maren(), asked));
    expect(await world.letters(packetId, "sign")).toEqual([]);
    const hugo = await world.enter(packetId);
    await save(hugo, "a", "Yes");
    const partId = must(await world.do(useCases.fillView, hugo, {})).parts[0]!.id;
    must(await world.sign(hugo, { partId, place: "own", name: "Hugo Lindgren" }));
    must(await world.do(useCases.returnPacket, hugo, {}));
    expect((await world.letters(packetId, "sign")).map((l) => l.to)).toEqual(["greta@mill.example"]);
    must(await signTurn(await enterAs(world, packetId, "Greta Lund"), "Greta Lund"));
    await runSeals(world.app);
    must(await world.do(useCases.openPaper, maren(), { partId }));
    // What happened to this paper, by its lines in the journal.
    const { steps } = (await signing(packetId)).parts[0]!;
    expect(steps.map((step) => [step.action, step.who])).toEqual([
      ["signature", "Hugo Lindgren"],
      ["signature.ask", "Greta Lund"],
      ["door.passed", "Greta Lund"],
      ["signature", "Greta Lund"],
      ["consent.give", undefined],
      ["paper.seal", undefined],
      ["paper.copies", "Maren Holloway"],
      ["paper.open", "Maren Holloway"],
    ]);
    expect(steps.map((step) => step.seq)).toEqual(steps.map((step) => step.seq).sort((a, b) => a - b));
  });

  it("voids what was signed when an answer is changed, asks those who signed it anew, and seals another paper", async () => {
    const id = await threefold();
    const { packetId, partId } = await returned(id);
    const greta = await enterAs(world, packetId, "Greta Lund");
    must(await signTurn(greta, "Greta Lund"));
    const me = await session();
    must(await world.do(useCases.releaseMark, me, { password: demoPassword }));
    const signOurs = async () => {
      const { digest } = must(await world.do(useCases.forYouToSign, me, {})).waiting.find(
        (w) => w.packetId === packetId,
      )!;
      must(await world.do(useCases.signAsStaff, me, { packetId, partId, place: "ours", digest }));
    };
    await signOurs();
    expect(await runSeals(world.app)).toBeGreaterThan(0);
    const first = must(await world.do(useCases.openPaper, maren(), { partId })).bytes;
    const lines = [{ partId, key: "employer", reason: "The whole name, please." }];
    must(await world.do(useCases.sendBack, maren(), { packetId, requestId: world.request(), lines }));
    const hugo = await enterAs(world, packetId, "Hugo Lindgren", "sent-back");
    // While it is with the client nobody signs it.
    expect(await world.do(useCases.signerView, greta, {})).toMatchObject({ error: { reason: "not-found" } });
    await save(hugo, "employer", "Greta Lund-Berg");
    expect(await world.do(useCases.returnPacket, hugo, {})).toMatchObject({ error: { reason: "incomplete" } });
    must(await world.sign(hugo, { partId, place: "own", name: "Hugo Lindgren" }));
    must(await world.do(useCases.returnPacket, hugo, {}));
    expect(await states(packetId)).toEqual(["signed", "void", "waits"]);
    expect(await runSeals(world.app)).toBe(0);
    expect(must(await world.do(useCases.checkPaper, maren(), { bytes: first }))).toMatchObject({
      paper: { consent: undefined, signatures: [{ stands: false }, { stands: false }, { stands: false }] },
    });
    must(await signTurn(await enterAs(world, packetId, "Greta Lund"), "Greta Lund"));
    await signOurs();
    expect(await runSeals(world.app)).toBe(1);
    expect((await signing(packetId)).parts[0]!.paper).toMatchObject({ number: 2, revision: 1 });
    // What was sealed before is there, and says that there is another one.
    expect(must(await world.do(useCases.checkPaper, maren(), { bytes: first }))).toMatchObject({
      outcome: "newer",
      paper: { number: 1, consent: "stands" },
    });
    expect(await world.journal(`packet:${packetId}`)).toEqual(
      expect.arrayContaining(["signature.void", "consent.void", "paper.seal"]),
    );
  });

  it("adds who need not sign to the sealed paper when they do, so that the first seal stays valid", async () => {
    const id = await consentOf(
      world,
      [shortText("a", "A word?"), place("own", "client"), place("more", "named", { optional: true })],
      {},
      "With somebody more",
    );
    const packetId = await sendTo(world, client("layla"), [id]);
    const layla = await world.enter(packetId);
    await save(layla, "a", "كلمة عربية 12 مع Latin");
    const { parts, language } = must(await world.do(useCases.fillView, layla, {}));
    expect(language).toBe("ar");
    const partId = parts[0]!.id;
    must(await world.sign(layla, { partId, place: "own", name: "ليلى حداد" }));
    must(await world.do(useCases.returnPacket, layla, {}));
    expect(await states(packetId)).toEqual(["signed", "nobody"]);
    // Ended between the seal and the letters: they go out when it runs again, and once.
    expect(await sealPart(world.app, (await world.app.practice())!, partId)).toMatchObject({ value: { sealed: true } });
    const told = async () => (await world.letters(packetId, "signed")).map((l) => l.toName);
    expect(await told()).toEqual([]);
    expect([await runSeals(world.app), await runSeals(world.app)]).toEqual([0, 0]);
    expect(await told()).toEqual(["ليلى حداد"]);
    // The copy is for who signed, behind the door of who signs.
    expect(await world.do(useCases.signedCopy, layla, { partId })).toMatchObject({ error: { reason: "not-allowed" } });
    const named = { packetId, partId, place: "more", who: "named", name: "Omar Haddad", email: "omar@mail.example" };
    must(await world.do(useCases.replaceSigner, maren(), named));
    must(await signTurn(await enterAs(world, packetId, "Omar Haddad"), "Omar Haddad"));
    expect(await runSeals(world.app)).toBe(1);
    const { bytes } = must(await world.do(useCases.openPaper, maren(), { partId }));
    const path = file("later.pdf", bytes);
    const said = execFileSync("pdfsig", [path], { encoding: "utf8" });
    expect(said.match(/Signature is Valid/g)).toHaveLength(2);
    const words = execFileSync("pdftotext", ["-raw", path, "-"], { encoding: "utf8" });
    for (const one of ["كلمة", "Latin", "Omar Haddad"]) expect(words.normalize("NFKC")).toContain(one);
    expect(must(await world.do(useCases.checkPaper, maren(), { bytes }))).toMatchObject({
      seals: [
        { known: true, intact: true },
        { known: true, intact: true },
      ],
      outcome: "unchanged",
      paper: { number: 1, revision: 2 },
    });
    // Changed and signed anew: who signed what it was before is not among those who gave the consent.
    const lines = [{ partId, key: "a", reason: "Another word, please." }];
    must(await world.do(useCases.sendBack, maren(), { packetId, requestId: world.request(), lines }));
    const again = await enterAs(world, packetId, "ليلى حداد", "sent-back");
    await save(again, "a", "كلمة أخرى");
    must(await world.sign(again, { partId, place: "own", name: "ليلى حداد" }));
    must(await world.do(useCases.returnPacket, again, {}));
    expect(await states(packetId)).toEqual(["signed", "void"]);
    const register = must(await world.do(useCases.clientConsents, maren(), { clientId: client("layla") }));
    expect(register.lines.find((l) => l.questionnaireId === id)!.given[0]!.by).toEqual(["ليلى حداد"]);
    expect((await world.journal(`packet:${packetId}`)).filter((step) => step === "signature.void")).toHaveLength(1);
    expect(await runSeals(world.app)).toBe(1);
  });

  it("counts a consent once it was talked over, lets it be withdrawn and renewed, and asks anew when its text changes", async () => {
    const items = [shortText("a", "A word?"), place("own", "client")];
    const id = await consentOf(world, items, { signing: { talk: true, months: 12 } }, "Talked over");
    const other = await consentOf(world, items, {}, "Something else");
    const give = async () => {
      const packetId = await sendTo(world, client("bram"), [id]);
      const bram = await world.enter(packetId);
      await save(bram, "a", "Yes");
      const partId = must(await world.do(useCases.fillView, bram, {})).parts[0]!.id;
      must(await world.sign(bram, { partId, place: "own", name: "Bram Okafor" }));
      must(await world.do(useCases.returnPacket, bram, {}));
      return { packetId, partId, bram };
    };
    /** Somebody around the client who fills something in, too. */
    const around = async (kind: string, name: string) => {
      const [firstName, lastName] = name.split(" ");
      const person = { kind, firstName, lastName, email: `${kind}@mail.example` };
      const add = { requestId: world.request(), clientId: client("bram"), ...person };
      const { id: relationId } = must(await world.do(useCases.addRelation, world.as("pia"), add));
      const people = [{ relationId, role: "fills" }];
      const send = { requestId: world.request(), clientId: client("bram"), questionnaireIds: [other], people };
      const { packetId: theirs } = must(await world.do(useCases.sendPacket, maren(), send));
      return enterAs(world, theirs, name, "packet");
    };
    const register = async () =>
      must(await world.do(useCases.clientConsents, maren(), { clientId: client("bram") })).lines.find(
        (l) => l.title === "Talked over",
      );
    must(await world.do(useCases.setConsentNeeded, maren(), { questionnaireId: id, needed: true }));
    expect((await register())!.state).toBe("missing");
    const { packetId, partId, bram } = await give();
    expect((await register())!.state).toBe("asked");
    expect(await runSeals(world.app)).toBe(0);
    const talk = { packetId, partId, on: "2026-11-25", how: "phone", present: "Bram, Maren", questions: "How long?" };
    expect(await world.do(useCases.recordTalk, maren(), { ...talk, on: "2026-02-30" })).toMatchObject({
      error: { reason: "invalid" },
    });
    must(await world.do(useCases.recordTalk, maren(), talk));
    must(await world.do(useCases.recordTalk, maren(), talk));
    expect(await runSeals(world.app)).toBe(1);
    expect(await register()).toMatchObject({
      state: "stands",
      given: [
        { by: ["Bram Okafor"], talk: { how: "By phone" }, until: expect.stringMatching(/^2027-11-25/) as unknown },
      ],
    });
    const fhir = must(await world.do(useCases.exportConsents, maren(), { clientId: client("bram") }));
    expect(fhirProblems(fhir)).toEqual([]);
    // Withdrawn by the client, on their own page; nobody else's.
    const own = must(await world.do(useCases.ownConsents, bram, {})).lines.find((l) => l.title === "Talked over")!;
    const stranger = await world.enter(await world.send("priya"));
    expect(await world.do(useCases.withdrawOwnConsent, stranger, { consentId: own.id })).toMatchObject({
      error: { reason: "not-found" },
    });
    // Nor is it shown to who fills in with them and does not speak for them; a guardian does.
    const someone = await around("supervisor", "Sten Moe");
    const guardian = await around("guardian", "Odd Okafor");
    expect(must(await world.do(useCases.ownConsents, someone, {})).lines).toEqual([]);
    expect(await world.do(useCases.withdrawOwnConsent, someone, { consentId: own.id })).toMatchObject({
      error: { reason: "not-found" },
    });
    expect(must(await world.do(useCases.ownConsents, guardian, {})).lines.map((l) => l.id)).toContain(own.id);
    must(await world.do(useCases.withdrawOwnConsent, bram, { consentId: own.id, reason: "I changed my mind." }));
    must(await world.do(useCases.withdrawOwnConsent, bram, { consentId: own.id, reason: "I changed my mind." }));
    // The practitioner is written to, once, with nothing of whose or what in the letter.
    const [letter, ...others] = await world.letters(packetId, "alert");
    expect([letter!.subject, others.length]).toEqual(["A consent was withdrawn", 0]);
    expect(`${letter!.subject} ${letter!.body}`).not.toMatch(/Bram|Okafor|Talked over|my mind/);
    expect(await register()).toMatchObject({
      state: "withdrawn",
      given: [{ withdrawnBy: "the client", reason: "I changed my mind." }],
    });
    const again = await give();
    must(await world.do(useCases.recordTalk, maren(), { ...talk, packetId: again.packetId, partId: again.partId }));
    expect((await register())!.given.map((g) => g.renewedAt !== undefined)).toEqual([false, true]);
    expect((await register())!.state).toBe("stands");
    // A change of the text that is not material leaves it; a material one does not, and all are found to be asked anew.
    await rewrite(world, id, (q) => ({ ...q, items: [shortText("a", "A word, please?"), ...items.slice(1)] }));
    expect((await register())!.state).toBe("stands");
    await rewrite(world, id, (q) => ({ ...q, items: [shortText("a", "Another word?"), ...items.slice(1)] }), true);
    expect((await register())!.state).toBe("out-of-date");
    const many = must(await world.do(useCases.mailingPeople, maren(), { renewing: id, questionnaireIds: [id] }));
    expect(many.lines.map((l) => l.name)).toContain("Bram Okafor");
    expect(must(await world.do(useCases.consentsTable, maren(), {}))).toMatch(/Bram Okafor,Talked over,.*Out of date/);
    const sheet = must(await world.do(useCases.daySheet, maren(), {}));
    expect(sheet.lines.some((l) => l.consents.some((c) => c.title === "Talked over"))).toBe(true);
    must(await world.do(useCases.setConsentNeeded, maren(), { questionnaireId: id, needed: false }));
  });

  it("leaves nothing of who signed or why when the client is erased", async () => {
    const { packetId, partId } = await returned(await threefold());
    const greta = await enterAs(world, packetId, "Greta Lund");
    must(await world.do(useCases.declineToSign, greta, { partId, place: "boss", reason: "No longer theirs." }));
    const stored = async (columns: string, from: string) =>
      (
        (await world.app.database.db.execute(`select ${columns} as held from ${from}`)) as unknown as {
          rows: { held: unknown }[];
        }
      ).rows.map((row) => row.held);
    const signers = `signer where packet_id = '${packetId}'`;
    const places = `signer_place where part_id = '${partId}'`;
    expect((await stored("person", signers)).filter((held) => held !== null)).toHaveLength(1);
    const by = { name: "Maren", staffId: world.seeded.staff["maren"]!, at: world.time, reason: "Asked for it" };
    await world.repo.clientErasures.erase(client("hugo"), by);
    expect((await stored("person", signers)).every((held) => held === null)).toBe(true);
    expect((await stored("reason", places)).every((held) => held === null)).toBe(true);
    expect(await world.do(useCases.packetSigning, maren(), { packetId })).toMatchObject({ ok: false });
    expect(await world.do(useCases.signerView, greta, {})).toMatchObject({ ok: false });
  });

  it("asks once whether electronic signatures are accepted, before the first thing to sign goes out", async () => {
    const practice = (await world.app.practice())!;
    await world.repo.practices.setSigning(practice.id, {});
    const send = {
      requestId: world.request(),
      clientId: client("edda"),
      questionnaireIds: world.seeded.questionnaires,
    };
    expect(await world.do(useCases.sendPacket, maren(), send)).toMatchObject({ error: { reason: "confirm-signing" } });
    must(await world.do(useCases.confirmSigning, maren(), { accepted: true }));
    expect(await world.do(useCases.sendPacket, maren(), send)).not.toMatchObject({
      error: { reason: "confirm-signing" },
    });
    expect(must(await world.do(useCases.signingOffice, maren(), {})).confirmed?.by).toBe("Maren Holloway");
  });
});

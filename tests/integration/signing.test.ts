import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { demoPassword } from "../../demo/scenario";
import { runSeals } from "../../src/jobs";
import { staffActor, useCases } from "../../src/server";
import { textDigest } from "../../src/core/signing";
import type { Id } from "../../src/core/shared";
import type { ClientActor, StaffActor } from "../../src/usecases/kit";
import { readIn } from "../../src/usecases/signing/standing";
import { consentOf, enterAs, place, rewrite, sendTo, shortText, tokenTo } from "../support/signing";
import { fhirProblems } from "../support/fhir";
import { kinds, text, World } from "../support/world";

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
      addedTo: false,
      seals: [{ ours: true, intact: true, known: true }],
      paper: {
        packetId,
        newer: false,
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
      seals: [{ ours: true, intact: false, known: false }],
      paper: undefined,
    });
    expect(execFileSync("pdfsig", [file("bad.pdf", bad)], { encoding: "utf8" })).toMatch(/Digest Mismatch/);
    const longer = new Uint8Array([...paper.bytes, ...Buffer.from("\n% more\n")]);
    expect(must(await world.do(useCases.checkPaper, maren(), { bytes: longer }))).toMatchObject({
      addedTo: true,
      seals: [{ intact: true, known: true }],
    });
    // The journal tells each step, and holds.
    const lines = await world.journal(`packet:${packetId}`);
    for (const step of ["signature.ask", "door.passed", "signature", "consent.give", "paper.seal", "paper.copies"])
      expect(lines).toContain(step);
    expect(must(await world.do(useCases.checkJournal, maren(), {}))).toMatchObject({ done: true, broken: undefined });
  });
});

import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { generate } from "otplib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoPassword } from "../../demo/scenario";
import { waitAfter } from "../../src/usecases/identity/limits";
import { must } from "../../demo/walk";
import { renderPaper, staffActor, useCases } from "../../src/server";
import { instantMs, laterBy } from "../../src/core/shared";
import { rightsOf } from "../../src/core/team";
import type { Actor } from "../../src/usecases/kit";
import { World } from "../support/world";

let world: World;
beforeAll(async () => {
  world = await World.open("pglite");
});
afterAll(() => world.close());

describe("who may do what", () => {
  const clinical = [
    "returns",
    "returnView",
    "reconcileView",
    "postToChart",
    "reverse",
    "chartView",
    "beginNote",
    "finishNote",
    "noteHistory",
    "noteView",
    "saveNote",
    "exportPart",
  ] as const;
  it.each(clinical)("%s is closed to the office, to clients and to strangers", async (name) => {
    const useCase = useCases[name] as unknown as typeof useCases.returns;
    const client: Actor = {
      kind: "client",
      packetId: "x" as never,
      linkId: "x" as never,
      role: "fills",
      passDigest: "",
      address: "",
      device: "",
    };
    for (const actor of [world.as("pia"), client, world.stranger])
      expect(await world.do(useCase, actor, {})).toMatchObject({ error: { reason: "not-allowed" } });
    expect(await world.do(useCase, world.as("tobias"), {})).not.toMatchObject({ error: { reason: "not-allowed" } });
  });
  it("only sign-in and the door are open to anyone", () => {
    const open = Object.entries(useCases)
      .filter(([, u]) => u.access === "anyone")
      .map(([n]) => n)
      .sort();
    expect(open).toEqual([
      "askPasskey",
      "checkCode",
      "checkDetails",
      "demoPeople",
      "forgotPassword",
      "openFreely",
      "openKnown",
      "openLink",
      "openTicket",
      "practiceLogo",
      "secondWays",
      "sendCode",
      "signIn",
      "takeTicket",
      "verifyPasskey",
      "verifySecondFactor",
    ]);
    expect([
      rightsOf("office", {}).includes("answers.read"),
      rightsOf("office", {}).includes("packet.send"),
      rightsOf("practitioner", {}).includes("journal.read"),
    ]).toEqual([false, true, false]);
  });
  it("a refused call is journalled", async () => {
    const { id } = (await world.app.practice())!;
    expect((await world.repo.journal.refusals(id, 500)).length).toBeGreaterThan(0);
  });
  it("input that is not what it should be is named field by field, and nothing is thrown", async () => {
    for (const input of [
      undefined,
      null,
      7,
      "x",
      [],
      { visitId: { $ne: 1 } },
      { visitId: "'; drop table client; --", requestId: "x", questionnaireIds: "all" },
    ])
      expect(await world.do(useCases.sendPacket, world.as("maren"), input)).toMatchObject({
        ok: false,
        error: { reason: "invalid" },
      });
  });
});

describe("signing in", () => {
  const signIn = (email: string, password: string, address = "192.0.2.7") =>
    world.do(useCases.signIn, { kind: "stranger", address, device: "" }, { email, password });
  it("takes the right password and says the same of a wrong one and of nobody's", async () => {
    const { token, needsCode } = must(await signIn("Maren@Fernhollow.example", demoPassword));
    expect(needsCode).toBe(false);
    expect(await staffActor(world.app, token, { address: "", device: "" })).toMatchObject({
      kind: "staff",
      name: "Maren Holloway",
      role: "owner",
    });
    expect(await staffActor(world.app, `${token}x`, { address: "", device: "" })).toMatchObject({ kind: "stranger" });
    expect(await signIn("maren@fernhollow.example", "wrong")).toEqual(
      await signIn("nobody@fernhollow.example", "wrong"),
    );
  });
  const outcome = async (...given: Parameters<typeof signIn>): Promise<string> => {
    const result = await signIn(...given);
    return result.ok ? "in" : result.error.reason;
  };
  it("lets whoever types wrong passwords wait, twice as long each time, and nobody for ever", async () => {
    const outcomes: string[] = [];
    for (let index = 0; index < 8; index++) outcomes.push(await outcome("tobias@fernhollow.example", "wrong"));
    expect(outcomes).toEqual([...Array<string>(6).fill("wrong"), "too-many", "too-many"]);
    // The right password is no help while one waits, or it could be found meanwhile.
    expect(await outcome("tobias@fernhollow.example", demoPassword)).toBe("too-many");
    world.wait(0.6);
    expect(await outcome("tobias@fernhollow.example", "wrong")).toBe("wrong");
    world.wait(0.6);
    expect(await outcome("tobias@fernhollow.example", demoPassword)).toBe("too-many");
    world.wait(0.6);
    expect(await outcome("tobias@fernhollow.example", demoPassword)).toBe("in");
    expect([5, 6, 7, 8, 30].map((wrong) => waitAfter(wrong, 5) / 1000)).toEqual([0, 30, 60, 120, 900]);
  });
  it("holds nobody up on a device they signed in on before, whatever strangers try from everywhere, and tells them", async () => {
    const email = "pia@fernhollow.example";
    const { device } = must(await signIn(email, demoPassword));
    for (let index = 0; index < 25; index++) await signIn(email, "wrong", `2001:db8:0:${index.toString(16)}::7`);
    expect(await outcome(email, demoPassword, "198.51.100.77")).toBe("too-many");
    const again = (given: string | undefined, password: string) =>
      world.do(
        useCases.signIn,
        { kind: "stranger", address: "198.51.100.78", device: "" },
        { email, password, device: given },
      );
    expect((await again(device, demoPassword)).ok).toBe(true);
    // Somebody else's device, or one made up, is no help.
    const other = must(await signIn("maren@fernhollow.example", demoPassword)).device;
    for (const made of [other, `x.${device!.split(".")[1]!}`, "x.y", ""])
      expect(await again(made, demoPassword)).toMatchObject({ error: { reason: "too-many" } });
    // A device that was taken away is let try as often as anybody.
    for (let index = 0; index < 6; index++) await again(device, "wrong");
    expect(await again(device, demoPassword)).toMatchObject({ error: { reason: "too-many" } });
    const told = (await world.repo.outbox.latest((await world.app.practice())!.id, 50)).filter(
      (m) => m.purpose === "tried",
    );
    expect(told.map((m) => m.to)).toEqual([email]);
    expect(told[0]!.body).toContain("Nobody got in");
  });
  it("lets an address that tries many accounts wait, and writes no journal about nobody", async () => {
    const { id } = (await world.app.practice())!;
    const before = (await world.repo.journal.head(id)).seq;
    let last = "";
    for (let index = 0; index < 42; index++)
      last = await outcome(`guess${index}@fernhollow.example`, "wrong", "203.0.113.9");
    expect(last).toBe("too-many");
    expect((await world.repo.journal.head(id)).seq).toBe(before);
    expect(await world.repo.journal.refusals(id, 500)).toContainEqual(
      expect.objectContaining({ useCase: "sign-in", actor: "stranger", address: "203.0.113.9" }),
    );
  });
  it("ends a session after ten hours, or an hour after it was used last", async () => {
    const { token } = must(await signIn("maren@fernhollow.example", demoPassword));
    const kind = async () => (await staffActor(world.app, token, { address: "", device: "" })).kind;
    const before = world.time;
    for (let minutes = 0; minutes < 590; minutes += 59) {
      expect(await kind(), `after ${minutes} minutes`).toBe("staff");
      world.wait(59);
    }
    expect(await kind()).toBe("staff");
    world.wait(11);
    expect(await kind()).toBe("stranger");
    world.time = before;
    const second = must(await signIn("maren@fernhollow.example", demoPassword)).token;
    // What a page asks by itself keeps no session open.
    world.wait(40);
    const asked = await staffActor(world.app, second, { address: "", device: "" }, false);
    expect(asked).toMatchObject({ kind: "staff", sessionUntil: laterBy(before, 60 * 60_000) });
    world.wait(21);
    expect((await staffActor(world.app, second, { address: "", device: "" })).kind).toBe("stranger");
    world.time = before;
  });
  it("with a second factor, the password alone opens nothing, and a code works once, even twice at the same moment", async () => {
    const salma = world.as("salma");
    const { secret } = must(await world.do(useCases.startSecondFactor, salma, {}));
    const code = () => generate({ secret, epoch: Math.floor(instantMs(world.time) / 1000) });
    must(await world.do(useCases.confirmSecondFactor, salma, { code: await code() }));
    world.wait(1);
    const half = () => signIn("salma@fernhollow.example", demoPassword).then(must);
    const [first, second] = [await half(), await half()];
    expect(first.needsCode).toBe(true);
    expect(await staffActor(world.app, first.token, { address: "", device: "" })).toMatchObject({ kind: "stranger" });
    const now = await code();
    const both = await Promise.all(
      [first, second].map(({ token }) => world.do(useCases.verifySecondFactor, world.stranger, { token, code: now })),
    );
    expect(both.map((r) => r.ok).sort()).toEqual([false, true]);
    expect(
      await world.do(useCases.verifySecondFactor, world.stranger, { token: (await half()).token, code: now }),
    ).toMatchObject({ error: { reason: "wrong" } });
    expect(await world.do(useCases.endSecondFactor, salma, { password: "wrong" })).toMatchObject({
      error: { reason: "wrong" },
    });
    must(await world.do(useCases.endSecondFactor, salma, { password: demoPassword }));
    expect((await half()).needsCode).toBe(false);
  });
});

describe("the paper", () => {
  it("passes qpdf, embeds its fonts, and holds the answers, the signature, who, when and from where, in Arabic too", async () => {
    const id = await world.send("layla");
    await world.fill(id, undefined, true);
    const folder = mkdtempSync(join(tmpdir(), "kl-pdf-"));
    for (const [index, part] of (await world.repo.packets.parts(id)).entries()) {
      const { paper } = must(await world.do(useCases.exportPart, world.as("salma"), { partId: part.id }));
      const path = join(folder, `${index}.pdf`);
      writeFileSync(path, await renderPaper(paper));
      expect(execFileSync("qpdf", ["--check", path]).toString()).toContain("No syntax or stream encoding errors");
      const words = execFileSync("pdftotext", ["-layout", path, "-"]).toString().normalize("NFKC");
      expect(words).toContain("Fernhollow Care Rooms");
      expect(words).toMatch(/25 November 2026 at \d\d:\d\d \(Europe\/London\), from 2001:db8::[0-9a-f]{1,4}/);
      if (index === 0) expect(words).toContain("I feel flat most days");
      // What Layla read and signed in Arabic is there beside what the practice reads.
      expect([...words].filter((c) => /\p{Script=Arabic}/u.test(c)).length > 200, part.id).toBe(index === 1);
      if (index === 1) {
        expect(words).toContain("We talk with you");
        expect(words).toContain("Signed by Hugo Lindgren");
        expect(words).toMatch(/SHA-256 of what was signed: [0-9a-f]{64}/);
      }
      if (index === 2) expect(words).toMatch(/PHQ-9 total\s+9 of 27, mild/);
      expect([...words].filter((c) => /\p{Script=Arabic}/u.test(c)).length).toBeGreaterThan(5);
      const fonts = execFileSync("pdffonts", [path]).toString().split("\n").slice(2).filter(Boolean);
      expect(fonts.length).toBeGreaterThan(1);
      for (const font of fonts) expect(font).toMatch(/\s+yes\s+(yes|no)\s+(yes|no)\s/);
    }
  });
});

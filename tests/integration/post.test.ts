import sharp from "sharp";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { smtpPost } from "../../src/adapters/smtp";
import { simulatedPost, type PostDriver } from "../../src/adapters/post";
import { createApplication, deliverDue, recoverPost, run, useCases, type Application } from "../../src/server";
import type { Id } from "../../src/core/shared";
import { MailServer } from "../support/mail-server";
import { kinds, World } from "../support/world";

describe.each(kinds)("letters on %s", (kind) => {
  let world: World;
  let mail: MailServer;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  afterEach(() => mail.close());
  const through = (post: PostDriver): Application =>
    createApplication(world.app.database, { ...world.app.ports, post }, world.app.keys);
  const send = async (app: Application): Promise<Id<"Packet">> =>
    must(
      await run(app, useCases.sendPacket, world.as("maren"), {
        requestId: world.request(),
        visitId: world.seeded.visits["ines"],
        questionnaireIds: world.seeded.questionnaires,
      }),
    ).packetId;
  /** What the server took that was not for staff. */
  const toClient = () => mail.took.filter((m) => !m.to.endsWith("@fernhollow.example"));
  const letter = async (packetId: string) => (await world.letters(packetId, "packet"))[0]!;
  const settled = async (packetId: string) => {
    await expect.poll(async () => (await letter(packetId)).state, { timeout: 20_000 }).not.toMatch(/sending|queued/);
    return letter(packetId);
  };

  it("go out by SMTP once, as plain text with the same in HTML beside it, with an id of their own", async () => {
    mail = new MailServer();
    const app = through(smtpPost(await mail.open()));
    const packetId = await send(app);
    expect(await settled(packetId)).toMatchObject({ state: "delivered", attempts: 1, trouble: null });
    expect(mail.took).toMatchObject([{ to: "ines.halvorsen@mail.example" }]);
    expect(mail.took[0]!.id).toBe(`${(await letter(packetId)).id}@fernhollow.example`);
    expect(mail.took[0]!.body).toMatch(
      /Content-Type: multipart\/alternative[^]*Content-Type: text\/plain; charset=utf-8[^]*Content-Type: text\/html; charset=utf-8/i,
    );
    expect(mail.took[0]!.body).toMatch(/From: Fernhollow Care Rooms/);
    await deliverDue(app);
    expect(toClient()).toHaveLength(1);
  });
  it("carry the practice's logo with them and its address under them, and load nothing from anywhere", async () => {
    mail = new MailServer();
    const app = through(smtpPost(await mail.open()));
    const bytes = new Uint8Array(
      await sharp({ create: { width: 64, height: 16, channels: 3, background: "#2f6247" } })
        .png()
        .toBuffer(),
    );
    must(await run(app, useCases.saveLogo, world.as("pia"), { requestId: world.request(), name: "logo.png", bytes }));
    await settled(await send(app));
    const { body } = toClient()[0]!;
    expect(body).toMatch(/Content-ID: <logo@fernhollow\.example>/i);
    expect(body).toMatch(/src=(?:3D)?"cid:logo@fernhollow\.example"/);
    expect(body).not.toMatch(/src=(?:3D)?"http/);
    // RFC 2387: what belongs to the HTML stands beside it, not among what was enclosed.
    expect(body).toMatch(/multipart\/related/i);
    expect(
      (await letter((await world.repo.packets.ofVisits([world.seeded.visits["ines"]!])).at(-1)!.id)).body,
    ).toContain("3 Lakeside Walk");
    must(await run(app, useCases.removeLogo, world.as("pia"), {}));
  });
  it("are tried again where the line breaks before the letter was asked for, and only then may have arrived", async () => {
    mail = new MailServer();
    const url = await mail.open({ onRcptTo: () => mail.cut() });
    const cut = await send(through(smtpPost(url)));
    await expect.poll(async () => (await letter(cut)).attempts).toBe(1);
    await expect.poll(async () => (await letter(cut)).state).toBe("queued");
    expect(await letter(cut)).toMatchObject({ state: "queued", trouble: expect.any(String) as unknown });
    await mail.close();
    mail = new MailServer();
    const after = await send(through(smtpPost(await mail.open({}, true))));
    expect(await settled(after)).toMatchObject({ state: "unsure" });
  });
  it("bounce when the server refuses them for good, and wait, longer each time, when it cannot take them now", async () => {
    mail = new MailServer();
    const refused = await send(
      through(
        smtpPost(
          await mail.open({
            onRcptTo: (_, __, done) => done(Object.assign(new Error("No such mailbox"), { responseCode: 550 })),
          }),
        ),
      ),
    );
    expect(await settled(refused)).toMatchObject({
      state: "bounced",
      trouble: expect.stringContaining("No such mailbox") as unknown,
    });
    await mail.close();
    mail = new MailServer();
    const busy = through(
      smtpPost(
        await mail.open({
          onRcptTo: (_, __, done) => done(Object.assign(new Error("Try later"), { responseCode: 451 })),
        }),
      ),
    );
    const waiting = await send(busy);
    await expect.poll(async () => (await letter(waiting)).trouble).toContain("Try later");
    expect(await letter(waiting)).toMatchObject({ state: "queued", attempts: 1 });
    expect(await deliverDue(busy)).toBe(0);
    const before = world.time;
    for (const [tries, minutes] of [1, 5, 30, 120, 360].entries()) {
      world.wait(minutes);
      await deliverDue(busy);
      expect((await letter(waiting)).attempts).toBe(tries + 2);
    }
    expect(await letter(waiting)).toMatchObject({ state: "bounced", attempts: 6, nextAt: null });
    // Nobody there at all: nothing was handed over, so it waits too.
    await mail.close();
    world.time = before;
    const nobody = await send(through(smtpPost("smtp://127.0.0.1:1")));
    await expect.poll(async () => (await letter(nobody)).trouble).not.toBeNull();
    expect(await letter(nobody)).toMatchObject({ state: "queued" });
    mail = new MailServer();
    must(
      await run(through(smtpPost(await mail.open())), useCases.tryAgain, world.as("pia"), {
        messageId: (await letter(nobody)).id,
      }),
    );
    expect(await settled(nobody)).toMatchObject({ state: "delivered", attempts: 2 });
  });
  it("are not written twice where the server hung up after taking one, nor when the process ended in between", async () => {
    mail = new MailServer();
    const app = through(smtpPost(await mail.open({}, true)));
    const packetId = await send(app);
    expect(await settled(packetId)).toMatchObject({ state: "unsure", attempts: 1 });
    world.wait(24 * 60);
    await deliverDue(app);
    expect(await recoverPost(app)).toBe(0);
    expect(toClient()).toHaveLength(1);
    // The process ends after the server took it and before that was recorded.
    await mail.close();
    mail = new MailServer();
    const real = smtpPost(await mail.open());
    const dying = through({
      outside: true,
      deliver: async (m, s) => {
        await real.deliver(m, s);
        throw new Error("The process ended here.");
      },
    });
    const second = await send(dying);
    await expect.poll(() => toClient().length).toBe(1);
    const next = through(real);
    // On a server that others may be on too, it is whose it was until their time is over.
    if (kind === "postgres") world.wait(5);
    await recoverPost(next);
    expect((await letter(second)).state).toBe("unsure");
    await deliverDue(next);
    expect(toClient()).toHaveLength(1);
    // Somebody says so: the same letter, under the same id, so that a server that knows it drops it.
    must(await run(next, useCases.tryAgain, world.as("pia"), { messageId: (await letter(second)).id }));
    expect(await settled(second)).toMatchObject({ state: "delivered" });
    expect(new Set(toClient().map((m) => m.id)).size).toBe(1);
    expect(await run(next, useCases.tryAgain, world.as("pia"), { messageId: (await letter(second)).id })).toMatchObject(
      { error: { reason: "arrived" } },
    );
  });
  it("bounce or wait as the Post room is told, and say when what was in them was opened", async () => {
    mail = new MailServer();
    const simulate = async (simulation: string) =>
      must(await world.do(useCases.simulatePost, world.as("pia"), { simulation }));
    await simulate("slow");
    const packetId = await send(through(simulatedPost));
    expect(await letter(packetId)).toMatchObject({
      state: "queued",
      trouble: expect.stringContaining("slow") as unknown,
    });
    await simulate("bounce");
    must(await world.do(useCases.tryAgain, world.as("pia"), { messageId: (await letter(packetId)).id }));
    expect((await letter(packetId)).state).toBe("bounced");
    expect(must(await world.do(useCases.packetJourney, world.as("pia"), { packetId })).letters).toMatchObject([
      { state: "bounced" },
    ]);
    await simulate("deliver");
    must(await world.do(useCases.tryAgain, world.as("pia"), { messageId: (await letter(packetId)).id }));
    expect(await letter(packetId)).toMatchObject({ state: "delivered", openedAt: null });
    await world.enter(packetId);
    expect((await letter(packetId)).openedAt).toBe(world.time);
    expect(await world.do(useCases.simulatePost, world.as("salma"), { simulation: "bounce" })).toMatchObject({
      error: { reason: "not-allowed" },
    });
  });
  it("that bounce show wherever the packet stands, are counted, and their sender is told once an hour", async () => {
    mail = new MailServer();
    const maren = world.as("maren");
    const app = through(simulatedPost);
    const simulate = async (simulation: string) =>
      must(await world.do(useCases.simulatePost, world.as("pia"), { simulation }));
    const line = async () =>
      must(await world.do(useCases.daySheet, maren, { day: "2026-11-25" })).lines.find(
        (l) => l.visitId === world.seeded.visits["ines"],
      )!.readiness;
    const counted = async () => must(await world.do(useCases.waiting, maren, {})).unreached;
    const told = async () =>
      (await world.repo.outbox.latest((await world.app.practice())!.id, 200)).filter((m) => m.purpose === "bounced");
    const [before, toldBefore] = [await counted(), (await told()).length];
    world.wait(120);
    await simulate("bounce");
    const packetId = await send(app);
    expect(await line()).toEqual({ mark: "unreached", words: "Letter bounced", next: "reach" });
    expect(await counted()).toBe(before + 1);
    expect(must(await world.do(useCases.returns, maren, {})).unreached[0]).toMatchObject({
      packetId,
      words: "Letter bounced",
    });
    const journey = async () => must(await world.do(useCases.packetJourney, maren, { packetId }));
    expect(await journey()).toMatchObject({ state: "sent", mark: "unreached", words: "Letter bounced" });
    const { clientId } = await journey();
    expect(must(await world.do(useCases.chartView, maren, { clientId })).packets[0]).toMatchObject({
      words: "Letter bounced",
    });
    // The letter to the sender names nobody.
    const [first] = await told();
    expect((await told()).length).toBe(toldBefore + 1);
    expect(first).toMatchObject({ to: "maren@fernhollow.example", packetId: null });
    expect(first!.body).toContain(`/packets/${packetId}`);
    expect(`${first!.subject} ${first!.body}`).not.toMatch(/Ines|Halvorsen/);
    await send(app);
    expect((await told()).length).toBe(toldBefore + 1);
    world.wait(61);
    await simulate("bounce");
    await send(app);
    expect((await told()).length).toBe(toldBefore + 2);
    // What arrived later is no trouble any more, and neither is what somebody opened all the same.
    await simulate("slow");
    world.wait(1);
    const slow = await send(app);
    expect(await line()).toMatchObject({ mark: "unreached", words: "Letter not out yet" });
    await simulate("deliver");
    must(await world.do(useCases.tryAgain, maren, { messageId: (await letter(slow)).id }));
    expect(await line()).toMatchObject({ mark: "sent", words: "Sent, not opened", next: "none" });
  });
  it("are claimed one by one: two workers at once hand over each of them once", async () => {
    mail = new MailServer();
    const handed: string[] = [];
    const slow: PostDriver = {
      outside: false,
      deliver: async (m) => {
        handed.push(m.id);
        await new Promise((r) => setImmediate(r));
        return { outcome: "delivered" };
      },
    };
    const quiet = through({ outside: false, deliver: () => Promise.resolve({ outcome: "later", trouble: "wait" }) });
    for (let index = 0; index < 6; index++) await send(quiet);
    world.wait(2);
    await Promise.all([deliverDue(through(slow)), deliverDue(through(slow)), deliverDue(through(slow))]);
    expect(handed.length).toBeGreaterThanOrEqual(6);
    expect(new Set(handed).size).toBe(handed.length);
  });
});

import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { must } from "../../demo/walk";
import { writeQuestionnaire } from "../../src/core/fhir";
import { newLine, type Item } from "../../src/core/questionnaire";
import { clientActor, staffActor, useCases } from "../../src/server";
import type { Id } from "../../src/core/shared";
import type { ClientActor } from "../../src/usecases/kit";
import { demoPassword } from "../../demo/scenario";
import { kinds, text, World } from "../support/world";

const from = { address: "192.0.2.9", device: "test" };

describe.each(kinds)("two people on %s", (kind) => {
  let world: World;
  beforeAll(async () => {
    world = await World.open(kind);
  });
  afterAll(() => world.close());
  const pages = { maren: "page-of-maren", tobias: "page-of-tobias", salma: "page-of-salma" };
  type Who = keyof typeof pages;
  const made = async (items: readonly Item[], putInUse = false): Promise<Id<"Questionnaire">> => {
    const { id } = must(
      await world.do(useCases.newQuestionnaire, world.as("maren"), {
        requestId: world.request(),
        title: "Together",
        kind: "consent",
      }),
    );
    if (!putInUse) return id;
    const view = must(await world.do(useCases.composerView, world.as("maren"), { id }));
    must(
      await world.do(useCases.saveDraft, world.as("maren"), {
        id,
        revision: view.revision,
        version: view.version,
        tried: [],
        next: world.request(),
        fhir: writeQuestionnaire({ ...view.questionnaire, signed: false, items }),
      }),
    );
    must(await world.do(useCases.putInUse, world.as("maren"), { id }));
    return id;
  };

  it("on one draft: who came first writes, the other is told before typing, and takes over when they say so", async () => {
    const id = await made([]);
    const at = async (who: Who, more = {}) =>
      must(await world.do(useCases.atDesk, world.as(who), { id, page: pages[who], ...more }));
    const [one, two] = await Promise.all([at("maren"), at("tobias")]);
    // Both at the same moment: one of them writes.
    expect([one.mine, two.mine].filter(Boolean)).toHaveLength(1);
    const [writes, looks] = one.mine ? (["maren", "tobias"] as const) : (["tobias", "maren"] as const);
    const names = { maren: "Maren Holloway", tobias: "Tobias Renn", salma: "" };
    expect(await at(looks)).toMatchObject({ mine: false, others: [{ name: names[writes], own: false, writes: true }] });
    expect(await at(writes)).toMatchObject({ mine: true, others: [{ name: names[looks], writes: false }] });
    must(await world.do(useCases.takeOverDraft, world.as(looks), { id, page: pages[looks] }));
    expect(await at(writes)).toMatchObject({ mine: false, others: [{ writes: true }] });
    expect(await at(looks)).toMatchObject({ mine: true });
    expect(await world.journal(`questionnaire:${id}`)).toContain("questionnaire.take-over");
    // Who leaves, or whose page died, holds nothing up.
    await at(looks, { leaving: true });
    expect((await at(writes)).mine).toBe(true);
    world.wait(1);
    expect(await at(looks)).toMatchObject({ mine: true, others: [] });
    // Nobody looks over the shoulder of a draft they may not change.
    expect(await world.do(useCases.atDesk, world.stranger, { id, page: "x".repeat(10) })).toMatchObject({
      error: { reason: "not-allowed" },
    });
  });

  it("sign each at their own place: a parent's is asked of the parent alone, and the return says what stands unsigned", async () => {
    const place = (linkId: string, signer?: "client" | "guardian"): Item =>
      ({ ...newLine("signature", linkId), text: `I agree (${linkId})`, ...(signer ? { signer } : {}) }) as Item;
    const id = await made(
      [
        { ...newLine("short-text", "word"), text: "A word" } as Item,
        place("own", "client"),
        place("parents", "guardian"),
      ],
      true,
    );
    const clientId = world.seeded.clients["ines"]!;
    const relationId = must(
      await world.do(useCases.addRelation, world.as("pia"), {
        requestId: world.request(),
        clientId,
        kind: "parent",
        firstName: "Astrid",
        lastName: "Halvorsen",
        email: "astrid@mail.example",
      }),
    ).id;
    const send = async (more: object) =>
      must(
        await world.do(useCases.sendPacket, world.as("pia"), {
          requestId: world.request(),
          clientId,
          questionnaireIds: [id],
          ...more,
        }),
      ).packetId;
    const enter = async (packetId: string, name: string): Promise<ClientActor> => {
      world.wait(1);
      const letter = (await world.letters(packetId, "packet")).find((one) => one.toName === name)!;
      const token = /\/p\/([\w-]+)/.exec(letter.body)![1]!;
      must(await world.do(useCases.sendCode, world.stranger, { token }));
      const code = (await world.letters(packetId, "code")).find((one) => one.toName === name)!;
      const passed = must(
        await world.do(useCases.checkCode, world.stranger, { token, code: /\b\d{6}\b/.exec(code.body)![0] }),
      );
      return (await clientActor(world.app, packetId, passed.passToken, from)) as ClientActor;
    };
    const view = async (actor: ClientActor) => must(await world.do(useCases.fillView, actor, {}));
    const sign = async (actor: ClientActor, where: string) =>
      world.sign(actor, { partId: (await view(actor)).parts[0]!.id, place: where, name: "Somebody" });
    const fill = async (actor: ClientActor) =>
      must(
        await world.do(useCases.saveAnswers, actor, {
          partId: (await view(actor)).parts[0]!.id,
          changes: [{ kind: "values", key: "word", values: text("Yes") }],
        }),
      );

    // The client alone: what is the parent's is not theirs to sign, and keeps nobody waiting.
    const alone = await send({});
    const ines = await enter(alone, "Ines Halvorsen");
    expect(await view(ines)).toMatchObject({ signsAs: "client", fillers: ["client"] });
    await fill(ines);
    expect(await sign(ines, "parents")).toMatchObject({ error: { reason: "not-signed-here" } });
    expect(await world.do(useCases.returnPacket, ines, {})).toMatchObject({ error: { reason: "incomplete" } });
    must(await sign(ines, "own"));
    must(await world.do(useCases.returnPacket, ines, {}));
    expect(must(await world.do(useCases.returnView, world.as("maren"), { packetId: alone })).parts[0]).toMatchObject({
      signatures: [{ placeOf: "client" }],
      unsigned: [{ text: "I agree (parents)", placeOf: "guardian" }],
    });

    // Both: neither can sign for the other, and it comes back once both have.
    const both = await send({ people: [{ relationId, role: "fills" }] });
    const [client, parent] = [await enter(both, "Ines Halvorsen"), await enter(both, "Astrid Halvorsen")];
    expect((await view(parent)).signsAs).toBe("parent");
    await fill(client);
    expect(await sign(parent, "own")).toMatchObject({ error: { reason: "not-signed-here" } });
    must(await sign(client, "own"));
    expect(await world.do(useCases.returnPacket, client, {})).toMatchObject({ error: { reason: "incomplete" } });
    must(await sign(parent, "parents"));
    must(await world.do(useCases.returnPacket, client, {}));
    expect(must(await world.do(useCases.returnView, world.as("maren"), { packetId: both })).parts[0]!.unsigned).toEqual(
      [],
    );
  });

  it("are not shut out in the middle: a session and a door's pass can be made longer while they hold", async () => {
    const signed = must(
      await world.do(useCases.signIn, world.stranger, { email: "tobias@fernhollow.example", password: demoPassword }),
    );
    const tobias = async () => staffActor(world.app, signed.token, from);
    // Somebody at work: an hour unused would end the session.
    const work = async (hours: number) => {
      for (let left = hours * 60; left > 0; left -= 45) {
        world.wait(Math.min(45, left));
        expect((await tobias()).kind).toBe("staff");
      }
    };
    await work(9);
    const { until } = must(await world.do(useCases.staySignedIn, (await tobias()) as never, {}));
    await work(9);
    expect(await tobias()).toMatchObject({ kind: "staff", sessionUntil: until });
    world.wait(2 * 60);
    expect((await tobias()).kind).toBe("stranger");

    const packetId = await world.send("cosmo");
    const actor = await world.enter(packetId);
    world.wait(11 * 60);
    const { passUntil } = must(await world.do(useCases.stayIn, actor, {}));
    world.wait(11 * 60);
    expect(must(await world.do(useCases.fillView, actor, {})).passUntil).toBe(passUntil);
    // On a device of the practice nobody stays longer than they were handed it for.
    expect(await world.do(useCases.stayIn, { ...actor, handedBy: "Maren" }, {})).toMatchObject({
      error: { reason: "not-found" },
    });
  });
});

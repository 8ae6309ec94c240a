import { must } from "../../demo/walk";
import { clientActor, useCases } from "../../src/server";
import { writeQuestionnaire } from "../../src/core/fhir";
import { newLine, type Item, type Questionnaire, type Signer, type SigningRule } from "../../src/core/questionnaire";
import type { PostPurpose } from "../../src/core/messages";
import type { Id } from "../../src/core/shared";
import type { ClientActor } from "../../src/usecases/kit";
import type { World } from "./world";

/** A place to sign. */
export const place = (linkId: string, signer?: Signer, signing?: SigningRule, rest: Partial<Item> = {}): Item =>
  ({
    ...newLine("signature", linkId),
    text: `I agree (${linkId}).`,
    ...(signer ? { signer } : {}),
    ...(signing ? { signing } : {}),
    ...rest,
  }) as Item;
export const shortText = (linkId: string, words: string, rest: Partial<Item> = {}): Item =>
  ({ ...newLine("short-text", linkId), text: words, ...rest }) as Item;

/** A consent in use, of these lines. */
export async function consentOf(
  world: World,
  items: readonly Item[],
  rest: Partial<Questionnaire> = {},
  title = "Consent to the work",
): Promise<Id<"Questionnaire">> {
  const maren = world.as("maren");
  const { id } = must(
    await world.do(useCases.newQuestionnaire, maren, { requestId: world.request(), title, kind: "consent" }),
  );
  await rewrite(world, id, (q) => ({ ...q, items, signed: false, ...rest }));
  return id;
}
/** Another version of it, in use at once. */
export async function rewrite(
  world: World,
  id: Id<"Questionnaire">,
  change: (now: Questionnaire) => Questionnaire,
  material = false,
): Promise<void> {
  const maren = world.as("maren");
  const view = must(await world.do(useCases.composerView, maren, { id }));
  must(
    await world.do(useCases.saveDraft, maren, {
      id,
      revision: view.revision,
      version: view.version,
      tried: [],
      next: world.request(),
      fhir: writeQuestionnaire(change(view.questionnaire)),
    }),
  );
  must(await world.do(useCases.putInUse, maren, { id, material }));
}
export async function sendTo(
  world: World,
  clientId: Id<"Client">,
  questionnaireIds: readonly Id<"Questionnaire">[],
): Promise<Id<"Packet">> {
  return must(
    await world.do(useCases.sendPacket, world.as("maren"), {
      requestId: world.request(),
      clientId,
      questionnaireIds,
    }),
  ).packetId;
}

/** The token in the newest letter of a kind to somebody. */
export async function tokenTo(world: World, packetId: string, name: string, purpose: PostPurpose = "sign") {
  const letter = (await world.letters(packetId, purpose)).find((one) => one.toName === name);
  if (!letter) throw new Error(`There is no letter to ${name}.`);
  return /\/p\/([\w-]+)/.exec(letter.body)![1]!;
}
/** Passes the door of who was asked to sign. */
export async function enterAs(
  world: World,
  packetId: Id<"Packet">,
  name: string,
  purpose: PostPurpose = "sign",
): Promise<ClientActor> {
  world.wait(1);
  const token = await tokenTo(world, packetId, name, purpose);
  must(await world.do(useCases.sendCode, world.stranger, { token }));
  const code = (await world.letters(packetId, "code")).find((one) => one.toName === name)!;
  const passed = must(
    await world.do(useCases.checkCode, world.stranger, { token, code: /\b\d{6}\b/.exec(code.body)![0] }),
  );
  const actor = await clientActor(world.app, packetId, passed.passToken, {
    address: "192.0.2.8",
    device: "their phone",
  });
  if (actor.kind !== "client") throw new Error("The pass opens nothing.");
  return actor;
}

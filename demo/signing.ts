import { writeQuestionnaire } from "../src/core/fhir";
import { newLine, type Item, type Signer, type SigningRule } from "../src/core/questionnaire";
import type { Id } from "../src/core/shared";
import { run, useCases, type Application } from "../src/server";
import { repositories } from "../src/db/repositories";
import { fillParts, must, openDoor } from "./walk";
import { staffAs } from "./seed";

const text = (linkId: string, words: string): Item => ({ ...newLine("text", linkId), text: words }) as Item;
const asks = (linkId: string, words: string, rest: Partial<Item> = {}): Item =>
  ({ ...newLine("short-text", linkId), text: words, required: true, ...rest }) as Item;
const place = (linkId: string, words: string, signer: Signer, signing: SigningRule = {}): Item =>
  ({ ...newLine("signature", linkId), text: words, signer, signing }) as Item;

/** What several people sign, one after another. */
export const signingItems: readonly Item[] = [
  text(
    "what",
    "We meet once a week for about fifty minutes. What is said stays between us. There are limits: if somebody is in danger, we have to act, and we tell you first wherever we can.",
  ),
  text("who", "Those who pay for the work, or who look after the person who comes, agree to these terms as well."),
  asks("payer", "Who pays for the visits?"),
  asks("payer-email", "What is their e-mail address?", { keyboard: "email" } as Partial<Item>),
  asks("share", "Where do you like to meet?", { required: false } as Partial<Item>),
  place("own", "I have read this and I agree to work together on these terms.", "client"),
  place("guardian", "I agree for the person I look after.", "guardian", { ages: { below: 18 } }),
  place("payer-place", "I pay for the visits, and I agree not to ask what is said in them.", "named", {
    title: "Payer",
    from: { kind: "answers", name: "payer", email: "payer-email" },
  }),
  place("ours", "I have explained this, and I agree to work on these terms.", "practitioner"),
];

/** A consent with signers in their order, sent to some: signed by the client, waiting for a payer, for the practice. */
export async function seedSigning(
  app: Application,
  who: Readonly<Record<string, Id<"Client">>>,
  staffId: Id<"Staff">,
): Promise<Readonly<Record<string, Id<"Packet">>>> {
  const maren = staffAs(app, staffId, "maren");
  const request = (): string => app.ports.random.id();
  const { id } = must(
    await run(app, useCases.newQuestionnaire, maren, {
      requestId: request(),
      title: "Working together",
      kind: "consent",
    }),
  );
  const view = must(await run(app, useCases.composerView, maren, { id }));
  const signing = { months: 12, talk: true as const };
  const fhir = writeQuestionnaire({ ...view.questionnaire, items: signingItems, signed: false, signing });
  const draft = { id, revision: view.revision, version: view.version, tried: [], next: request(), fhir };
  must(await run(app, useCases.saveDraft, maren, draft));
  must(await run(app, useCases.putInUse, maren, { id }));
  const packets: Record<string, Id<"Packet">> = {};
  for (const [name, clientId] of Object.entries(who)) {
    const { packetId } = must(
      await run(app, useCases.sendPacket, maren, { requestId: request(), clientId, questionnaireIds: [id] }),
    );
    packets[name] = packetId;
    const actor = await openDoor(app, packetId);
    const values = { payer: "Greta Lund", "payer-email": "greta.lund@mill.example", share: "In the room by the lake." };
    await fillParts(app, actor, { "": { values } }, name);
    must(await run(app, useCases.returnPacket, actor, {}));
  }
  return packets;
}
/** The link in the newest letter about signing. */
export async function signingLink(app: Application, packetId: Id<"Packet">): Promise<string> {
  const letters = await repositories(app.database.db, app.ports.sealer).outbox.ofPacket(packetId);
  return /\/p\/[\w-]+/.exec(letters.findLast((letter) => letter.purpose === "sign")!.body)![0];
}

import { object, string } from "yup";
import { signSchema } from "../../core/forms";
import { isOpen, stateAt } from "../../core/packet";
import { allItems, checkAnswers, prune, translate } from "../../core/questionnaire";
import {
  canonicalText,
  intentSentence,
  isDrawnPath,
  placesToSign,
  signedStatement,
  type SignatureMark,
} from "../../core/signing";
import { fail, ok, type Instant, type Result } from "../../core/shared";
import { command, idInput, notFound, seenBy, type CommonError } from "../kit";
import { kindAt, peopleOf } from "../sending/people";
import { languageOf } from "../sending/recipient";

export type SignError = CommonError | { readonly reason: "closed" | "not-signed-here" | "not-drawn" | "incomplete" };

/**
 * Puts a signature under one questionnaire as it stands. A later change of its answers makes signing again necessary.
 */
export const signPart = command({
  name: "sign-part",
  access: "client.fill",
  input: object({ partId: idInput<"Part">(), place: string().max(500).default("") }).concat(signSchema),
  async run(ctx, { partId, place, name, path }): Promise<Result<{ at: Instant }, SignError>> {
    const { repo, practice, now, actor, random } = ctx;
    const found = await repo.packets.part(practice.id, partId, true);
    if (found?.packet.id !== actor.packetId) return notFound;
    if (!isOpen(stateAt(found.packet.state, found.packet.expiresAt, now))) return fail({ reason: "closed" });
    const questionnaire = await repo.versions.definition(found.part.versionId);
    if (path !== "" && !isDrawnPath(path)) return fail({ reason: "not-drawn" });
    const answers = prune(questionnaire, await repo.answers.ofPart(partId, seenBy(actor)));
    const client = await repo.clients.byId(practice.id, found.packet.clientId);
    const link = await repo.links.byId(actor.linkId);
    const kind = client ? kindAt(await peopleOf(ctx, found.packet, client), actor.linkId) : "client";
    if (!placesToSign(questionnaire, answers, [kind]).includes(place)) return fail({ reason: "not-signed-here" });
    if (checkAnswers(questionnaire, answers).length > 0) return fail({ reason: "incomplete" });
    // What was signed is what was read: the words of the client's language.
    const language = client ? languageOf(client, found.packet, link) : "en";
    const mark: SignatureMark = path === "" ? { kind: "typed", name } : { kind: "drawn", name, path };
    const read = translate(questionnaire, language);
    const statement = signedStatement(read, answers, {
      intent: allItems(read).find((i) => place !== "" && i.linkId === place)?.text ?? intentSentence(language),
      ...(place === "" ? {} : { place }),
      signer: name,
      mark,
      at: now,
    });
    const id = random.id<"Signature">();
    const row = await repo.signatures.add({
      id,
      partId,
      place,
      statement,
      digest: ctx.sha256(canonicalText(statement)),
      at: now,
      address: actor.address,
      device: (actor.handedBy === undefined
        ? actor.device
        : `the practice’s own device, handed over by ${actor.handedBy}; ${actor.device}`
      ).slice(0, 300),
    });
    ctx.journal("signature", `packet:${actor.packetId}`, { signature: id, mark: mark.kind, row });
    return ok({ at: now });
  },
});

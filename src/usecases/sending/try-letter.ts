import { boolean, object } from "yup";
import { fail, ok, type Result } from "../../core/shared";
import { command, query } from "../kit";
import { letterTo, sendLetter } from "./letters";
import { doorBefore, recipientFor } from "./recipient";
import { languageInput, versionsOf, wishesSchema, type SendError } from "./send-packet";
import { endOf, letterKindFor, letterValues, targetInput, targetOf, usualExpiry } from "./target";

const readInput = object({ language: languageInput, holdsChart: boolean().default(false) });
/**
 * The letter as it would be, to whoever sends it, with a link to rehearse the first questionnaire. Nothing goes to the
 * client.
 */
export const sendTest = command({
  name: "send-test",
  access: "packet.send",
  input: targetInput.concat(wishesSchema.pick(["questionnaireIds", "expiresOn", "line", "door"]).concat(readInput)),
  async run(
    ctx,
    { questionnaireIds, expiresOn, language, line, door, holdsChart, ...target },
  ): Promise<Result<{ to: string }, SendError>> {
    const { actor } = ctx;
    const found = await targetOf(ctx, target);
    if (!found.ok) return found;
    const asked = await versionsOf(ctx, questionnaireIds);
    if (!asked.ok) return asked;
    const expiry = endOf(ctx, expiresOn ?? usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    const read = language ?? found.value.client.language;
    await sendLetter(
      ctx,
      letterKindFor(found.value),
      null,
      {
        relationId: undefined,
        kind: "client",
        ended: false,
        firstName: actor.name,
        name: actor.name,
        language: read,
        relation: undefined,
        email: actor.email,
        phone: undefined,
        contact: { channel: "email", to: actor.email, masked: "" },
      },
      letterValues(
        ctx,
        found.value,
        { expiresAt: expiry.value, language: read },
        `${ctx.origin}/library/${asked.value[0]!.id}/rehearse?in=${read}`,
        await doorBefore(
          ctx,
          found.value.client,
          await recipientFor(ctx, found.value.client, undefined, read),
          door,
          holdsChart,
        ),
        { relationId: undefined, language: read },
      ),
      line,
    );
    ctx.journal("packet.test", "practice", { questionnaires: asked.value.length });
    return ok({ to: actor.email });
  },
});

/** The letter as this person would get it, before it is sent; its link is made when it is. */
export const previewLetter = query({
  name: "preview-letter",
  access: "packet.send",
  input: targetInput.concat(wishesSchema.pick(["expiresOn", "line", "door"]).concat(readInput)),
  async run(
    ctx,
    { expiresOn, language, line, door, holdsChart, ...target },
  ): Promise<Result<{ channel: "email" | "text"; subject: string; body: string }, SendError>> {
    const found = await targetOf(ctx, target);
    if (!found.ok) return found;
    const recipient = await recipientFor(ctx, found.value.client, undefined, language);
    if (!recipient.contact) return fail({ reason: "no-contact" });
    const expiry = endOf(ctx, expiresOn ?? usualExpiry(ctx));
    if (!expiry.ok) return expiry;
    const { channel } = recipient.contact;
    // As long as a real one, so that the parts of a text are counted right.
    const link = `${ctx.origin}/p/${"x".repeat(43)}`;
    return ok({
      channel,
      ...(await letterTo(
        ctx,
        letterKindFor(found.value),
        recipient,
        channel,
        letterValues(
          ctx,
          found.value,
          { expiresAt: expiry.value, language: language ?? null },
          link,
          await doorBefore(ctx, found.value.client, recipient, door, holdsChart),
          recipient,
          (await ctx.repo.practices.pages(ctx.practice.id)).clientNamed,
        ),
        line,
      )),
    });
  },
});

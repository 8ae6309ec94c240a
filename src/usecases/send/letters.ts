import { fillWording, startingWordings, type Placeholder, type Wording } from '../../core/messages';
import { instantMs, type Id, type Instant } from '../../core/shared';
import type { Context } from '../kit';
import type { Recipient } from './recipient';

/** "Wednesday 25 November, 14:30" in a zone, in the practice's way of writing. */
export const visitMoment = (at: Instant, zone: string, locale: string): string =>
  new Intl.DateTimeFormat(locale, { weekday: 'long', day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit', timeZone: zone }).format(instantMs(at));
export const dayWords = (at: Instant, zone: string, locale: string): string =>
  new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'long', timeZone: zone }).format(instantMs(at));

/** Sends a wording to a recipient. Starting wordings are checked by a test to fill, so a failure here is a bug. */
export async function sendWording(
  ctx: Context, purpose: 'packet' | 'code' | 'locked', packetId: Id<'Packet'>, recipient: Recipient,
  wordings: { readonly email: Wording; readonly text: Wording }, values: Partial<Record<Placeholder, string>>, mustHave: readonly Placeholder[],
): Promise<void> {
  const { contact } = recipient;
  if (!contact) throw new Error('Nobody to send to; the caller must have asked.');
  const filled = fillWording(wordings[contact.channel], { 'practice.name': ctx.practice.name, 'recipient.firstName': recipient.firstName, ...values }, mustHave);
  if (!filled.ok) throw new Error(`A wording does not fill: ${filled.error.names.join(', ')}`);
  await ctx.send({ channel: contact.channel, to: contact.to, toName: recipient.name, ...filled.value, purpose, packetId });
}
export const packetWordings = { email: startingWordings.packetEmail, text: startingWordings.packetText };
export const codeWordings = { email: startingWordings.codeEmail, text: startingWordings.codeText };

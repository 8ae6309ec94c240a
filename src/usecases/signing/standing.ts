import { ageOn } from "../../core/chart";
import { translate, type Answers, type Questionnaire } from "../../core/questionnaire";
import { dayIn } from "../../core/scheduling";
import { isFresh, signedText, signingPlan, standingOf, type PlaceStanding, type SignedText } from "../../core/signing";
import type { Id } from "../../core/shared";
import type { Client, Packet, Part, Signature } from "../../db/repositories";
import type { Context } from "../kit";

/** What is needed to read how something is signed: whoever asks, and the jobs. */
export type Reading = Pick<Context, "repo" | "practice" | "now">;

/**
 * The client's age for what has to be signed: on the day it came back, so that nobody's signature falls away on a
 * birthday.
 */
export const ageFor = (ctx: Reading, client: Client, packet: Pick<Packet, "returnedAt">): number | undefined =>
  client.birthDate === undefined
    ? undefined
    : ageOn(client.birthDate, dayIn(packet.returnedAt ?? ctx.now, ctx.practice.zone));

/** What is read at a place by somebody who reads `language`. */
export const readIn = (questionnaire: Questionnaire, answers: Answers, place: string, language: string): SignedText =>
  signedText(translate(questionnaire, language), answers, place, language);

export interface SignedPart {
  /** The newest signature at each place, whether or not it stands. */
  readonly signatures: readonly Signature[];
  /** Those of them that stand, in the order they were given. */
  readonly valid: readonly Signature[];
  readonly standing: readonly PlaceStanding[];
}
/** How the places of a part stand under these answers. */
export async function signedPart(
  ctx: Reading,
  part: Part,
  questionnaire: Questionnaire,
  answers: Answers,
  age: number | undefined,
): Promise<SignedPart> {
  const signatures = await ctx.repo.signatures.ofPart(part.id);
  const given = signatures.map(({ place, order, statement }) => ({
    place,
    order,
    fresh: isFresh(statement, readIn(questionnaire, answers, place, statement.language)),
  }));
  const standing = standingOf(signingPlan(questionnaire, answers, age), given);
  const valid = signatures.filter((s) => standing.some((p) => p.place === s.place && p.signed));
  return { signatures, valid, standing };
}
/** The signatures of a part that stand, whoever asks; none of a part that is not there. */
export async function validOf(ctx: Reading, partId: Id<"Part">): Promise<readonly Signature[]> {
  const { repo, practice } = ctx;
  const found = await repo.packets.part(practice.id, partId);
  const client = found && (await repo.clients.byId(practice.id, found.packet.clientId));
  if (!found || !client) return [];
  const questionnaire = await repo.versions.definition(found.part.versionId);
  const answers = await repo.answers.ofPart(partId);
  return (await signedPart(ctx, found.part, questionnaire, answers, ageFor(ctx, client, found.packet))).valid;
}

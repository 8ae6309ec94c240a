import { monthsLater } from "../../core/scheduling";
import type { Client, Packet } from "../../db/repositories";
import type { Context } from "../kit";
import type { SigningPart } from "./go-on";

/**
 * Keeps the register in step with what is signed: a consent that everybody has signed and that was talked over stands
 * from then on; one whose signatures stand no longer is void.
 */
export async function settleConsent(ctx: Context, packet: Packet, client: Client, one: SigningPart): Promise<void> {
  if (one.questionnaire.kind !== "consent") return;
  const { repo, now, random, practice } = ctx;
  const there = await repo.consents.ofPart(one.part.id);
  if (one.complete && !there) {
    const { months } = one.questionnaire.signing ?? {};
    await repo.consents.add({
      id: random.id<"Consent">(),
      practiceId: practice.id,
      clientId: client.id,
      partId: one.part.id,
      questionnaireId: await repo.versions.questionnaireOf(one.part.versionId),
      versionId: one.part.versionId,
      from: now,
      until: months === undefined ? null : monthsLater(now, months, practice.zone),
      withdrawnAt: null,
      withdrawnBy: null,
      reason: undefined,
      voidedAt: null,
    });
    ctx.journal("consent.give", `packet:${packet.id}`, { part: one.part.id });
  }
  if (!one.complete && there) {
    await repo.consents.void(one.part.id, now);
    ctx.journal("consent.void", `packet:${packet.id}`, { part: one.part.id });
  }
}

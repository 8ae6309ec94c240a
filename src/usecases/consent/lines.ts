import { registerOf, type ConsentLine } from "../../core/consent";
import { boundsOf, dayIn } from "../../core/scheduling";
import type { Id } from "../../core/shared";
import type { Consent, ConsentText } from "../../db/repositories";
import type { Reading } from "../signing/standing";

/** A consent as it was given, and whether its text has changed materially since. */
export type KeptConsent = Consent & { readonly outOfDate: boolean };
/** One consent text of one client. */
export interface RegisterLine extends ConsentLine<KeptConsent> {
  readonly clientId: Id<"Client">;
  readonly text: ConsentText;
  /** All there ever were, the oldest first. */
  readonly given: readonly KeptConsent[];
}

/**
 * The register of these clients, or of all in sight: every consent text that they gave, were sent, or have to give, for
 * everybody has to or a visit of theirs that is to come asks for it.
 *
 * @param among whose lines are wanted; of all clients only those for whom something is to be said
 */
export async function registerLines(
  ctx: Reading,
  among: readonly Id<"Client">[],
  whole = false,
): Promise<RegisterLine[]> {
  const { repo, practice, now } = ctx;
  const ids = whole ? undefined : among;
  const texts = await repo.consents.texts(practice.id);
  const outdated = await repo.versions.outdated();
  const given = new Map<string, KeptConsent[]>();
  const at = (clientId: string, questionnaireId: string): string => `${clientId} ${questionnaireId}`;
  for (const one of await repo.consents.all(practice.id, ids)) {
    if (one.voidedAt !== null) continue;
    const key = at(one.clientId, one.questionnaireId);
    given.set(key, [...(given.get(key) ?? []), { ...one, outOfDate: outdated.has(one.versionId) }]);
  }
  const asked = new Set(
    (await repo.consents.asked(practice.id, now, ids)).map((a) => at(a.clientId, a.questionnaireId)),
  );
  const byType = new Map<string, string[]>();
  for (const standing of await repo.standing.all(practice.id))
    for (const type of standing.visitTypes)
      byType.set(type, [...(byType.get(type) ?? []), ...standing.questionnaires.map((line) => line.id)]);
  const [today] = boundsOf(dayIn(now, practice.zone), practice.zone);
  const byVisit = new Set(
    (await repo.consents.visitsFrom(practice.id, today, ids)).flatMap((v) =>
      (byType.get(v.visitTypeId) ?? []).map((id) => at(v.clientId, id)),
    ),
  );
  return among.flatMap((clientId) =>
    texts.flatMap((text): RegisterLine[] => {
      const key = at(clientId, text.id);
      const needed = text.state === "active" && (text.neededByAll || byVisit.has(key));
      const all = given.get(key) ?? [];
      const line = registerOf(all, needed, asked.has(key), now);
      return line ? [{ ...line, clientId, text, given: all }] : [];
    }),
  );
}

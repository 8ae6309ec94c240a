import { consentState, type ConsentState } from "../../core/consent";
import type { Id } from "../../core/shared";
import type { Reading } from "./standing";

/** How the consent that a paper gave stands now; undefined where it gave none, or it is void. */
export async function consentOfPart({ repo, now }: Reading, partId: Id<"Part">): Promise<ConsentState | undefined> {
  const given = await repo.consents.ofPart(partId);
  if (!given) return undefined;
  const outOfDate = await repo.versions.changedMateriallySince(given.versionId);
  return consentState({ ...given, outOfDate }, now);
}

import { object, string, type InferType } from "yup";
import { fail, ok, type Id, type Result } from "../../core/shared";
import type { Client } from "../../db/repositories";
import { idInput, inOrder, type Context } from "../kit";
import { placesToChoose, signerChoiceInput, signerChosen, type PlaceToChoose } from "../signing/choose-signer";
import { assignTo } from "../signing/go-on";
import type { SignerIs } from "../signing/people";

/** Who signs at a place for which nobody is known beforehand. */
export const signerInput = object({
  questionnaireId: idInput<"Questionnaire">(),
  place: string().max(500).required(),
}).concat(signerChoiceInput);
export type SignerInput = InferType<typeof signerInput>;
interface SignerAtPlace {
  readonly versionId: Id<"Version">;
  readonly item: PlaceToChoose;
  readonly who: SignerIs;
}
/** Who was chosen for which place; refused as a whole where one is not there, or nobody chooses for the place. */
export async function signersChosen(
  ctx: Context,
  client: Client,
  asked: readonly { readonly id: Id<"Questionnaire">; readonly versionId: Id<"Version"> }[],
  signers: readonly SignerInput[],
): Promise<Result<SignerAtPlace[], { readonly reason: "no-signer" }>> {
  const around = (await ctx.repo.relations.ofClient(client.id)).filter((r) => !r.ended).map((r) => r.kind);
  const found = await inOrder(signers, async ({ questionnaireId, place, ...said }) => {
    const versionId = asked.find((one) => one.id === questionnaireId)?.versionId;
    const item =
      versionId &&
      placesToChoose(await ctx.repo.versions.definition(versionId), around).find((one) => one.place === place);
    const who = item && (await signerChosen(ctx, client, { ...said, title: said.title || item.title }));
    return versionId && item && who ? [{ versionId, item, who }] : [];
  });
  return found.some((one) => one.length === 0) ? fail({ reason: "no-signer" }) : ok(found.flat());
}
export async function putSigners(
  ctx: Context,
  packetId: Id<"Packet">,
  parts: readonly { readonly id: Id<"Part">; readonly versionId: Id<"Version"> }[],
  signers: readonly SignerAtPlace[],
): Promise<void> {
  const there = await ctx.repo.signers.ofPacket(packetId);
  for (const { versionId, item, who } of signers) {
    const part = parts.find((one) => one.versionId === versionId)!;
    await assignTo(ctx, { id: packetId }, part.id, item.place, item.kind, who, there);
  }
}

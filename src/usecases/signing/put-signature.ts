import { string, boolean, object } from "yup";
import { signSchema } from "../../core/forms";
import type { Display, Questionnaire } from "../../core/questionnaire";
import {
  canonicalText,
  isDrawnPath,
  placesOf,
  textDigest,
  waysAt,
  type Evidence,
  type SignatureMark,
  type SignedStatement,
  type SignedText,
} from "../../core/signing";
import { fail, ok, type Result } from "../../core/shared";
import type { Part } from "../../db/repositories";
import type { Beforehand, Context } from "../kit";

/** What a signature is made of, as a browser sends it. */
export const signatureInput = object({
  place: string().max(500).default(""),
  /** Of what the signer had before them. */
  digest: string()
    .matches(/^[0-9a-f]{64}$/)
    .required(),
  /** They agree to sign electronically. */
  agreed: boolean().oneOf([true], "Agree to sign electronically, or ask for paper.").required(),
}).concat(signSchema);
export type SignatureGiven = ReturnType<typeof signatureInput.validateSync>;
/** `changed`: what they read is not what is there by now. */
export type MarkProblem = { readonly reason: "not-drawn" | "no-picture" | "not-this-way" | "changed" };

const largestPicture = 120_000;
/** A picture of a signature is drawn anew, apart, before anything is opened. */
export async function pictureIn(ctx: Pick<Beforehand, "pictures">, png: string): Promise<string | undefined> {
  if (png === "") return undefined;
  const bytes = Buffer.from(png, "base64");
  if (bytes.length > largestPicture) return undefined;
  const drawn = await ctx.pictures.signature(new Uint8Array(bytes));
  return drawn.ok ? Buffer.from(drawn.value).toString("base64") : undefined;
}

export const placeIn = (questionnaire: Questionnaire, place: string): Display | undefined =>
  placesOf(questionnaire).find((item) => item.linkId === place);

/** What who signs at a place is, as the questionnaire says, or else of which kind. */
export const signsAs = (questionnaire: Questionnaire, place: string, kind: string): string =>
  placeIn(questionnaire, place)?.signing?.title || kind;

/** The mark somebody made, where it may be made so at this place. */
export function markFrom(
  questionnaire: Questionnaire,
  { place, name, way, path }: Pick<SignatureGiven, "place" | "name" | "way" | "path">,
  picture: string | undefined,
): Result<SignatureMark, MarkProblem> {
  if (!waysAt(placeIn(questionnaire, place)?.signing).includes(way)) return fail({ reason: "not-this-way" });
  if (way === "drawn") return isDrawnPath(path) ? ok({ kind: "drawn", name, path }) : fail({ reason: "not-drawn" });
  if (way === "picture")
    return picture === undefined ? fail({ reason: "no-picture" }) : ok({ kind: "picture", name, png: picture });
  return ok({ kind: way, name });
}

/** Puts a signature under what was read; the caller has seen that it is their turn. */
export async function putSignature(
  ctx: Context,
  part: Part,
  read: SignedText,
  given: { readonly place: string; readonly digest: string; readonly signer: string; readonly mark: SignatureMark },
  evidence: Evidence,
): Promise<Result<SignedStatement["at"], MarkProblem>> {
  if (textDigest(read) !== given.digest) return fail({ reason: "changed" });
  const { now, actor, random } = ctx;
  const statement: SignedStatement = {
    ...read,
    textDigest: given.digest,
    signer: given.signer,
    mark: given.mark,
    at: now,
  };
  const id = random.id<"Signature">();
  const handedBy = actor.kind === "client" ? actor.handedBy : undefined;
  const row = await ctx.repo.signatures.add({
    id,
    partId: part.id,
    place: given.place,
    statement,
    digest: ctx.sha256(canonicalText(statement)),
    at: now,
    address: actor.address,
    device: (handedBy === undefined
      ? actor.device
      : `the practice’s own device, handed over by ${handedBy}; ${actor.device}`
    ).slice(0, 300),
    evidence,
  });
  ctx.journal("signature", `packet:${part.packetId}`, {
    signature: id,
    part: part.id,
    mark: given.mark.kind,
    row,
    signer: evidence.signerId,
  });
  return ok(now);
}

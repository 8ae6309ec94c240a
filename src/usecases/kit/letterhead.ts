import { onOneLine } from "../../core/shared";
import type { LetterheadFacts } from "../../adapters/letterhead";
import type { Context } from "./use-case";

/** The practice's own picture; undefined where there is none. */
export async function logoOf({ repo, practice }: Pick<Context, "repo" | "practice">) {
  const held = practice.logoId ? await repo.files.byId(practice.id, practice.logoId) : undefined;
  return held && { contentType: held.file.contentType, bytes: held.bytes };
}
/** Where a page finds it: another one has another address. */
export const logoPath = ({ logoId }: Pick<Context["practice"], "logoId">): string | null =>
  logoId === null ? null : `/logo?of=${logoId}`;
/** Whose paper it is: what stands at its head. */
export async function letterhead(ctx: Pick<Context, "repo" | "practice">): Promise<LetterheadFacts> {
  const logo = await logoOf(ctx);
  return {
    practice: ctx.practice.name,
    address: onOneLine(ctx.practice.address),
    logo: logo && { format: logo.contentType === "image/png" ? "png" : "jpg", bytes: logo.bytes },
  };
}

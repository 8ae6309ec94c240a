import { object } from "yup";
import { mostBytes, sniff } from "../../core/files";
import { fail, laterBy, ok, type Result } from "../../core/shared";
import { bytesInput, query, type Beforehand, type CommonError } from "../kit";

export type CutError = CommonError | { readonly reason: "no-picture" };
const hourMs = 3_600_000;
/** So many pictures an hour that cost much; after them none of theirs is looked into for a while. */
const mostCostly = 5;
/** A signature out of a picture of one, as PNG in base64. Nothing is kept. @param who whose pictures are counted */
async function cut(
  { pictures, repo, now }: Pick<Beforehand, "pictures" | "repo" | "now">,
  who: string,
  bytes: Uint8Array,
): Promise<string | undefined> {
  const type = bytes.length > mostBytes ? undefined : sniff(bytes);
  const since = laterBy(now, -hourMs);
  if (!type?.startsWith("image/") || (await repo.limits.soFar(`cut ${who}`, since)) >= mostCostly) return undefined;
  const done = await pictures.signature(bytes);
  if (!done.ok && done.error === "too-costly") await repo.limits.count(`cut ${who}`, now, since);
  return done.ok ? Buffer.from(done.value).toString("base64") : undefined;
}
const given = (png: unknown): Result<{ png: string }, CutError> =>
  typeof png === "string" ? ok({ png }) : fail({ reason: "no-picture" });

export const cutPicture = query({
  name: "cut-picture",
  access: "client.any",
  input: object({ bytes: bytesInput }),
  before: (ctx, { bytes }) => cut(ctx, ctx.actor.packetId, bytes),
  run: async (_ctx, _input, png): Promise<Result<{ png: string }, CutError>> => given(png),
});
/** The same for staff. */
export const cutOwnPicture = query({
  name: "cut-own-picture",
  access: "own-account",
  input: object({ bytes: bytesInput }),
  before: (ctx, { bytes }) => cut(ctx, ctx.actor.id, bytes),
  run: async (_ctx, _input, png): Promise<Result<{ png: string }, CutError>> => given(png),
});

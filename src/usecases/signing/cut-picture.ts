import { object } from "yup";
import { mostBytes, sniff } from "../../core/files";
import { fail, ok, type Result } from "../../core/shared";
import { bytesInput, query, type CommonError, type Ports } from "../kit";

export type CutError = CommonError | { readonly reason: "no-picture" };
/** A signature out of a picture of one, as PNG in base64. Nothing is kept. */
async function cut({ pictures }: Pick<Ports, "pictures">, bytes: Uint8Array): Promise<string | undefined> {
  const type = bytes.length > mostBytes ? undefined : sniff(bytes);
  if (!type?.startsWith("image/")) return undefined;
  const done = await pictures.signature(bytes);
  return done.ok ? Buffer.from(done.value).toString("base64") : undefined;
}
const given = (png: unknown): Result<{ png: string }, CutError> =>
  typeof png === "string" ? ok({ png }) : fail({ reason: "no-picture" });

export const cutPicture = query({
  name: "cut-picture",
  access: "client.any",
  input: object({ bytes: bytesInput }),
  before: (ctx, { bytes }) => cut(ctx, bytes),
  run: async (_ctx, _input, png): Promise<Result<{ png: string }, CutError>> => given(png),
});
/** The same for staff. */
export const cutOwnPicture = query({
  name: "cut-own-picture",
  access: "own-account",
  input: object({ bytes: bytesInput }),
  before: (ctx, { bytes }) => cut(ctx, bytes),
  run: async (_ctx, _input, png): Promise<Result<{ png: string }, CutError>> => given(png),
});

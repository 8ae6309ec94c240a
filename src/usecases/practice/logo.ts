import { object, string } from "yup";
import type { FileProblem } from "../../core/files";
import { fail, ok, type Id, type Result } from "../../core/shared";
import {
  bytesInput,
  command,
  logoOf,
  nothing,
  notFound,
  query,
  requestInput,
  takeFile,
  type CommonError,
  type Context,
  type TakenFile,
} from "../kit";

/** It goes with every page and letter. */
const mostLogoBytes = 300_000;
export type LogoError =
  | CommonError
  | { readonly reason: "refused"; readonly why: FileProblem }
  | { readonly reason: "no-picture" }
  | { readonly reason: "large" };
type Logo = TakenFile & { readonly type: "image/png" | "image/jpeg" };
/** A picture that papers can hold, drawn anew. Takes its time: for a use case's `before`. */
export async function takeLogo(
  ports: Parameters<typeof takeFile>[0],
  name: string,
  bytes: Uint8Array,
): Promise<Result<Logo, LogoError>> {
  const taken = await takeFile(ports, name, bytes);
  if (!taken.ok) return fail({ reason: "refused", why: taken.error });
  const { type } = taken.value;
  if (type !== "image/png" && type !== "image/jpeg") return fail({ reason: "no-picture" });
  if (taken.value.bytes.length > mostLogoBytes) return fail({ reason: "large" });
  return ok({ ...taken.value, type });
}
/** Gives false where there is a file of that id already. */
export async function keepLogo(
  { repo, practice, now }: Pick<Context, "repo" | "practice" | "now">,
  id: Id<"File">,
  { title, type, bytes }: Logo,
): Promise<boolean> {
  const file = { id, partId: null, title, contentType: type, size: bytes.length, createdAt: now };
  const isNew = await repo.files.add(practice.id, file, bytes);
  if (isNew) await repo.practices.setLogo(practice.id, id);
  return isNew;
}
/** The practice's own picture, in place of the one there was. The request's id becomes its file's. */
export const saveLogo = command({
  name: "save-logo",
  access: "office.write",
  input: object({ requestId: requestInput, name: string().max(1000).default(""), bytes: bytesInput }),
  before: (ports, { name, bytes }) => takeLogo(ports, name, bytes),
  async run(ctx, { requestId }, taken): Promise<Result<null, LogoError>> {
    if (!taken.ok) return taken;
    const id = requestId as Id<"File">;
    if (!(await keepLogo(ctx, id, taken.value)) && ctx.practice.logoId !== id) return notFound;
    ctx.journal("practice.logo", "practice", { there: true });
    return ok(null);
  },
});
export const removeLogo = command({
  name: "remove-logo",
  access: "office.write",
  input: nothing,
  async run(ctx): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.setLogo(ctx.practice.id, null);
    ctx.journal("practice.logo", "practice", { there: false });
    return ok(null);
  },
});
/** For everybody who opens a page of the practice's. */
export const practiceLogo = query({
  name: "practice-logo",
  access: "anyone",
  input: nothing,
  async run(ctx): Promise<Result<{ contentType: string; bytes: Uint8Array }, CommonError>> {
    const logo = await logoOf(ctx);
    return logo ? ok(logo) : notFound;
  },
});

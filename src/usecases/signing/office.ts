import { boolean, object, string } from "yup";
import { fail, isBefore, laterBy, ok, type Instant, type Result } from "../../core/shared";
import type { CertificateFacts } from "../../adapters/seal/certificate";
import { bytesInput, command, inOrder, nothing, query, type CommonError } from "../kit";

export interface SigningOffice {
  readonly confirmed: { readonly at: Instant; readonly by: string } | undefined;
  readonly mailsPapers: boolean;
  /** What papers are and were sealed with, the newest first. */
  readonly certificates: readonly (CertificateFacts & {
    readonly use: "seal" | "time-stamp";
    readonly brought: boolean;
    readonly current: boolean;
    /** It runs out within two months. */
    readonly endsSoon: boolean;
    /** In base64 DER: for whoever is to trust it. */
    readonly der: string;
  })[];
  /** Time-stamps come from a server elsewhere. */
  readonly stampsFromElsewhere: boolean;
}
const soonMs = 61 * 86_400_000;

export const signingOffice = query({
  name: "signing-office",
  access: "office.write",
  input: nothing,
  async run(ctx): Promise<Result<SigningOffice, CommonError>> {
    const { practice, repo, now } = ctx;
    const rows = await repo.sealedPapers.certificates(practice.id);
    return ok({
      confirmed: practice.signing.confirmed,
      mailsPapers: practice.signing.mailsPapers === true,
      stampsFromElsewhere: ctx.timeStampUrl !== undefined,
      certificates: await inOrder(rows, async ({ chain, use, brought, endedAt }) => {
        const facts = await ctx.certificates.facts(chain[0]!);
        const current = endedAt === null;
        return {
          ...facts,
          use,
          brought,
          current,
          der: chain[0]!,
          endsSoon: current && isBefore(facts.until, laterBy(now, soonMs)),
        };
      }),
    });
  },
});
/** How who signed gets their copy: behind their door, or as a file in the mail. */
export const setMailsPapers = command({
  name: "set-mails-papers",
  access: "office.write",
  input: object({ mailsPapers: boolean().required() }),
  async run(ctx, { mailsPapers }): Promise<Result<null, CommonError>> {
    await ctx.repo.practices.setSigning(ctx.practice.id, { ...ctx.practice.signing, mailsPapers });
    ctx.journal("signature.mails", "practice", { mailsPapers });
    return ok(null);
  },
});
export type BringError =
  | CommonError
  | { readonly reason: "not-pkcs12" | "wrong-password" | "old-encryption" | "no-key" | "ended" | "too-costly" };
/** Papers are sealed with the practice's own certificate from now on. What was sealed before stays as it is. */
export const bringCertificate = command({
  name: "bring-certificate",
  access: "office.write",
  input: object({ bytes: bytesInput, password: string().max(1000).default("") }),
  before: (ctx, { bytes, password }) => ctx.certificates.read(bytes, password, ctx.now),
  async run(ctx, _input, read): Promise<Result<CertificateFacts, BringError>> {
    if (!read.ok) return fail({ reason: read.error });
    const { identity, facts } = read.value;
    const current = await ctx.repo.sealedPapers.current(ctx.practice.id, "seal");
    if (current?.fingerprint !== facts.fingerprint)
      await ctx.repo.sealedPapers.addCertificate(
        {
          id: ctx.random.id<"SealCertificate">(),
          practiceId: ctx.practice.id,
          use: "seal",
          chain: identity.chain,
          fingerprint: facts.fingerprint,
          brought: true,
          createdAt: ctx.now,
          endedAt: null,
        },
        identity.key,
      );
    ctx.journal("paper.certificate", "practice", { fingerprint: facts.fingerprint });
    return ok(facts);
  },
});

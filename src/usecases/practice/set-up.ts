import { setUpSchema } from "../../core/forms";
import { startingMeasurePolicy } from "../../core/measures";
import { startingDoor, startingPages } from "../../core/packet";
import { fail, inFours, ok, readableCode, type Id, type Instant, type Result, type Sealer } from "../../core/shared";
import type { Practice } from "../../db/repositories";
import { object, string } from "yup";
import { bytesInput, command } from "../kit";
import { keepLogo, takeLogo, type LogoError } from "./logo";
import { openSession } from "../identity";

/**
 * What whoever sets the practice up has to know: it stands on the server's console, and comes from the installation's
 * own key, so that all its processes print the same and nobody else can work it out. 12 of 31 signs, about 59 bits.
 */
const setUpCode = (sealer: Sealer): string =>
  readableCode(Buffer.from(sealer.keyedDigest("set-up", "code"), "base64url"), 12);
/** As it is printed. */
export const setUpCodeWords = (sealer: Sealer): string => inFours(setUpCode(sealer));

/** A practice of which nothing is said yet. */
export const emptyPractice = (id: Id<"Practice">, createdAt: Instant): Practice => ({
  id,
  name: "",
  zone: "UTC",
  locale: "en-GB",
  email: "",
  address: "",
  country: "GB",
  linkDays: 14,
  languages: ["en"],
  simulation: "deliver",
  door: startingDoor,
  pages: startingPages,
  rights: {},
  secondFactorRequired: false,
  logoId: null,
  retention: {},
  mailsAnchors: false,
  measures: startingMeasurePolicy,
  signing: {},
  chartLayout: {},
  createdAt,
});

/** Makes the practice and its owner, once, for whoever has the code from the console; signed in at once. */
export const setUp = command({
  name: "set-up",
  access: "set-up",
  input: setUpSchema.concat(object({ logo: bytesInput.optional(), logoName: string().max(1000).default("") })),
  before: async (ports, { logo, logoName }) => (logo ? takeLogo(ports, logoName, logo) : undefined),
  async run(
    ctx,
    input,
    logo,
  ): Promise<Result<{ token: string }, LogoError | { readonly reason: "wrong-code" | "common" }>> {
    const { repo, practice, now, random } = ctx;
    if (input.code !== setUpCode(ctx.sealer)) return fail({ reason: "wrong-code" });
    const about = [input.practiceName, input.name, input.email];
    if (ctx.passwords.isCommon(input.newPassword, about)) return fail({ reason: "common" });
    if (logo && !logo.ok) return logo;
    // Of two at once, the second finds the practice of the first.
    await repo.installations.hold();
    if (await repo.practices.only()) return fail({ reason: "not-allowed" });
    await repo.practices.add({
      ...practice,
      name: input.practiceName,
      email: input.practiceEmail,
      address: input.address,
      country: input.country,
      locale: localeFor(input.language, input.country),
      languages: [...new Set([input.language, ...input.languages])],
      zone: input.zone,
    });
    if (logo) await keepLogo({ ...ctx, practice }, random.id<"File">(), logo.value);
    await repo.journal.start(practice.id);
    const ownerId = random.id<"Staff">();
    await repo.staff.add({
      id: ownerId,
      practiceId: practice.id,
      email: input.email,
      name: input.name,
      role: "owner",
      passwordHash: await ctx.passwords.hash(input.newPassword),
      joinedAt: now,
    });
    ctx.journal("practice.set-up", "practice");
    ctx.journal("sign-in", `staff:${ownerId}`);
    return ok({ token: await openSession(ctx, ownerId, true) });
  },
});
/** How the practice writes dates and numbers: its language as it is used in its country. */
export const localeFor = (language: string, country: string): string => {
  const { language: main, script } = new Intl.Locale(language);
  return new Intl.Locale(main ?? "en", { region: country, ...(script ? { script } : {}) }).toString();
};

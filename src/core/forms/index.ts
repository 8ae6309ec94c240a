import { number, object, string } from "yup";
import { isDate, isEmail, isPhone, questionnaireKinds, signatureWays } from "../questionnaire";
import { isLanguageTag, isZone, plainDigits } from "../shared";
import { languageList } from "./lists";

/** Forms that the browser checks before the server does, from one schema each. */
export const signInSchema = object({
  email: string().trim().email("This is not an e-mail address.").max(254).required("Type your e-mail address."),
  password: string().max(200).required("Type your password."),
});
/** A code from an authenticator app or a door check; blanks between the digits do not matter. */
export const codeSchemaSaying = (problem: string) =>
  object({
    code: string()
      .transform((v: string) => plainDigits(v).replace(/[\s\u200E\u200F\u202A-\u202E\u2066-\u2069]/g, ""))
      .matches(/^\d{6}$/, { message: problem, excludeEmptyString: true })
      .required(problem),
  });
export const codeSchema = codeSchemaSaying("Type the six digits of the code.");
export const passwordSchema = object({ password: string().max(200).required("Type your password.") });
const blankToNothing = (v: string | undefined): string | undefined => (v?.trim() ? v.trim() : undefined);
const reach = {
  email: string()
    .transform(blankToNothing)
    .max(254)
    .test("email", "An e-mail address looks like name@mail.example.", (v) => v === undefined || isEmail(v)),
  phone: string()
    .transform(blankToNothing)
    .max(40)
    .transform((v: string | undefined) => v && plainDigits(v))
    .test("phone", "A phone number has 7 to 15 digits.", (v) => v === undefined || isPhone(v)),
};
/** One way to reach somebody, or two. */
export const contactSchema = object(reach).test("reach", "Give an e-mail address or a phone number.", function (value) {
  return value.email || value.phone
    ? true
    : this.createError({ path: "email", message: "Give an e-mail address or a phone number." });
});
export const newClientSchema = contactSchema.concat(
  object({
    firstName: string().trim().max(100).required("Type the first name."),
    lastName: string().trim().max(100).default(""),
    birthDate: string()
      .transform(blankToNothing)
      .test("day", "There is no such day.", (v) => v === undefined || isDate(v)),
  }),
);
/** Who a client is. */
export const identitySchema = object({
  firstName: string().trim().max(100).required("Type the first name."),
  lastName: string().trim().max(100).default(""),
  preferredName: string().trim().max(100).default(""),
  birthDate: string()
    .transform(blankToNothing)
    .test("day", "There is no such day.", (v) => v === undefined || isDate(v)),
});
const noFormula = (text: string | undefined): boolean => !/^[=@]/.test(text ?? "");
const formula = "Begins like a formula.";
/** A row of a file of clients; who is brought in may have no way to be reached yet. */
export const clientRowSchema = object({
  firstName: string().trim().max(100).required("There is no first name.").test("formula", formula, noFormula),
  lastName: string().trim().max(100).default("").test("formula", formula, noFormula),
  preferredName: string().trim().max(100).default("").test("formula", formula, noFormula),
  birthDate: string()
    .transform(blankToNothing)
    .test("day", "The birth date is no day.", (v) => v === undefined || isDate(v)),
  ...reach,
  address: string().trim().max(400).default("").test("formula", formula, noFormula),
  language: string()
    .transform(blankToNothing)
    .max(35)
    .test("language", "The language is no tag such as en or fr.", (tag) => tag === undefined || isLanguageTag(tag)),
});
/** Whom somebody means who may not look for them, and why they have to. */
export const openClientSchema = object({
  firstName: string().trim().max(100).required("Type the first name."),
  lastName: string().trim().max(100).default(""),
  birthDate: string()
    .required("Type the birth date.")
    .test("day", "There is no such day.", (v) => v === undefined || isDate(v)),
  reason: string().trim().min(5, "Say why, in a few words.").max(500).required("Say why, in a few words."),
});
/** How somebody is written to where both ways are on file. */
export const writeBySchema = object({
  prefers: string()
    .oneOf(["email", "text"] as const)
    .required("Choose how to write to them."),
});
/**
 * A digest of what stood on the page when it was changed, so that nobody changes back unseen what another did
 * meanwhile.
 */
export const seenSchema = object({ seen: string().max(64).default("") });
const zoneProblem = "Type a time zone such as Europe/London or America/New_York.";
/** What holds for everybody unless something else is said. */
export const practiceDefaultsSchema = object({
  linkDays: number()
    .typeError("Type a number of days.")
    .integer("Type whole days.")
    .min(1, "From one day on.")
    .max(365, "At most 365 days.")
    .required("Say for how many days."),
  zone: string()
    .trim()
    .required(zoneProblem)
    .test("zone", zoneProblem, (zone) => zone !== undefined && isZone(zone)),
  languages: languageList().min(1, "Choose at least one language.").required(),
});
/** A client may have neither. */
export const clientContactSchema = object(reach)
  .concat(writeBySchema)
  .concat(
    object({
      zone: string()
        .transform(blankToNothing)
        .max(60)
        .test("zone", zoneProblem, (zone) => zone === undefined || isZone(zone)),
      language: string()
        .max(35)
        .required("Choose a language.")
        .test("language", "Choose a language.", (tag) => tag !== undefined && isLanguageTag(tag)),
    }),
  );
/** Those around a client who can be written to. */
export const relationKinds = ["guardian", "parent", "partner", "supervisor"] as const;
export const newRelationSchema = contactSchema.concat(
  object({
    firstName: string().trim().max(100).required("Type the first name."),
    lastName: string().trim().max(100).default(""),
    kind: string().oneOf(relationKinds).required("Say who they are to the client."),
  }),
);
export const signSchema = object({
  name: string().trim().min(2, "Type your full name.").max(120).required("Type your full name."),
  path: string().max(60_000).default(""),
  way: string().oneOf(signatureWays).default("typed"),
  /** A picture of a signature, PNG in base64. */
  png: string().max(170_000).default(""),
});
export const newQuestionnaireSchema = object({
  title: string().trim().max(200, "That is long for a title.").required("Type a title."),
  kind: string().oneOf(questionnaireKinds).required("Choose a kind."),
});
export { namedSignerSchema, talkSchema, withdrawConsentSchema } from "./signing";
export { closeAlertSchema, eraseSchema, holdSchema, measurePolicySchema, retentionSchema } from "./keeping";
export {
  emailSchema,
  memberSchema,
  newMemberSchema,
  newPasswordSchema,
  newVisitSchema,
  practiceFactsSchema,
  rightsSchema,
  secondCodeSchema,
  setUpSchema,
  shortestPassword,
  visitTimeSchema,
  visitTypeSchema,
} from "./staff";

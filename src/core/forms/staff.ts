import { array, boolean, number, object, string } from "yup";
import { rights } from "../team";
import { idList, languageList } from "./lists";
import { mostRepeats } from "../scheduling";
import { isLanguageTag, isZone, plainDigits, roles, typedCode } from "../shared";

/**
 * At least 15 characters where the password stands alone, no rule of what it is made of (NIST SP 800-63B-4, 3.1.1.2,
 * from memory); whether it is a common one, the server says.
 */
export const shortestPassword = 15;
const newPassword = string()
  .min(shortestPassword, `At least ${shortestPassword} characters: a few words in a row do well.`)
  .max(200, "At most 200 characters.")
  .required(`At least ${shortestPassword} characters: a few words in a row do well.`);
export const newPasswordSchema = object({ newPassword });

const email = string()
  .trim()
  .lowercase()
  .email("This is not an e-mail address.")
  .max(254)
  .required("Type an e-mail address.");
export const emailSchema = object({ email });

const memberFields = {
  name: string().trim().max(120, "That is long for a name.").required("Type the name."),
  title: string().trim().max(120, "That is long for a title.").default(""),
  role: string().oneOf(roles).required("Choose a role."),
};
/** The address only while the invitation is out; nothing leaves it as it is. */
export const memberSchema = object({
  ...memberFields,
  email: email.transform((typed: string) => typed || undefined).optional(),
});
export const newMemberSchema = object({ ...memberFields, email });
export const rightsSchema = object({
  role: string().oneOf(["office", "practitioner", "supervisor"]).required(),
  rights: array(string().oneOf(rights).required()).default([]),
});

/** ISO 3166-1 alpha-2, as `Intl` knows them. */
const isCountry = (code: string | undefined): boolean =>
  code !== undefined &&
  /^[A-Z]{2}$/.test(code) &&
  new Intl.DisplayNames("en", { type: "region", fallback: "none" }).of(code) !== undefined;
const practiceFields = {
  practiceName: string().trim().max(120, "That is long for a name.").required("Type the name of the practice."),
  practiceEmail: email,
  address: string().trim().max(400, "That is long for an address.").default(""),
  country: string().test("country", "Choose a country.", isCountry).required("Choose a country."),
  language: string()
    .max(35)
    .required("Choose a language.")
    .test("language", "Choose a language.", (tag) => tag !== undefined && isLanguageTag(tag)),
};
/** What the practice is known by. */
export const practiceFactsSchema = object(practiceFields);
const zoneProblem = "Type a time zone such as Europe/London or America/New_York.";
export const setUpSchema = object({
  ...practiceFields,
  /** Besides the practice's own, what clients are offered. */
  languages: languageList().default([]),
  code: string()
    .transform(typedCode)
    .matches(/^[A-Z0-9]{12}$/, "Type the twelve letters and digits that stand on the console.")
    .required("Type the code that stands on the console."),
  zone: string()
    .trim()
    .required(zoneProblem)
    .test("zone", zoneProblem, (zone) => zone !== undefined && isZone(zone)),
  name: memberFields.name,
  email,
  newPassword,
});

export const visitTypeSchema = object({
  name: string().trim().max(80, "That is long for a name.").required("Type a name."),
  /** Who holds such visits; nobody named is everybody. */
  practitioners: idList("Choose practitioners.").default([]),
  minutes: number()
    .typeError("Type a number of minutes.")
    .integer("Type whole minutes.")
    .min(5, "At least 5 minutes.")
    .max(600, "At most 600 minutes.")
    .required("Say for how many minutes."),
  remote: boolean().default(false),
  room: string().trim().max(60, "That is long for a room.").default(""),
});
const chosen = (what: string) => string().required(what);
export const visitTimeSchema = object({
  day: string()
    .matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day.")
    .required("Choose a day."),
  time: string()
    .matches(/^([01]\d|2[0-3]):[0-5]\d$/, "A time looks like 14:30.")
    .required("Type a time."),
  minutes: number()
    .typeError("Type a number of minutes.")
    .integer("Type whole minutes.")
    .min(5, "At least 5 minutes.")
    .max(600, "At most 600 minutes.")
    .required("Say for how many minutes."),
  room: string().trim().max(60, "That is long for a room.").default(""),
});
/** What the form of a new visit can say by itself. */
export const newVisitSchema = visitTimeSchema.concat(
  object({
    clientId: chosen("Choose a client."),
    staffId: chosen("Choose with whom."),
    count: number()
      .typeError("Type a number.")
      .integer("Type a whole number.")
      .min(1, "At least one.")
      .max(mostRepeats, `At most ${mostRepeats}.`)
      .default(1),
    weeks: number()
      .typeError("Type a number.")
      .integer("Type a whole number.")
      .min(1, "At least one week apart.")
      .max(12, "At most twelve weeks apart.")
      .default(1),
  }),
);
/** What is asked after the password: the six digits, or one of the recovery codes. */
export const secondCodeSchema = object({
  code: string()
    .transform((typed: string) => typedCode(plainDigits(typed)))
    .matches(/^(?:\d{6}|[A-Z0-9]{12})$/, "Type the six digits, or one of your recovery codes.")
    .required("Type the six digits, or one of your recovery codes."),
});

import { mixed, object, string } from "yup";
import { isDate, isEmail } from "../questionnaire";
import { talkWays, type Talk } from "../signing";

/** Somebody who signs and is not on file. */
export const namedSignerSchema = object({
  name: string().trim().max(120, "That is long for a name.").default(""),
  email: string()
    .trim()
    .max(254)
    .default("")
    .test(
      "email",
      "An e-mail address looks like name@mail.example.",
      (v) => v === "" || (v !== undefined && isEmail(v)),
    ),
  title: string().trim().max(80, "That is long for what they are.").default(""),
});
/** The conversation about a consent. */
export const talkSchema = object({
  on: string()
    .required("Say on which day.")
    .test("day", "There is no such day.", (v) => v !== undefined && isDate(v)),
  how: mixed<Talk["how"]>()
    .oneOf([...talkWays], "Say how.")
    .required("Say how."),
  present: string().trim().max(500, "That is long.").required("Say who was there."),
  questions: string().trim().max(4000, "That is long.").default(""),
});
/** Why a consent is withdrawn. */
export const withdrawConsentSchema = object({ reason: string().trim().max(2000, "That is long.").default("") });

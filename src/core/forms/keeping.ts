import { number, object, string } from "yup";
import { longestAlertHours, mostChecks } from "../measures";

const blankToNothing = (value: unknown, typed: unknown): unknown =>
  typeof typed === "string" && typed.trim() === "" ? undefined : value;
const whole = (most: number) =>
  number()
    .transform(blankToNothing)
    .typeError("Type a number, or leave it empty.")
    .integer("Type a whole number.")
    .min(1, "At least one; leave it empty to keep everything.")
    .max(most, `At most ${most}.`);
/** For how long what is kept; empty: for ever. */
export const retentionSchema = object({
  record: whole(100),
  minorsUntil: whole(100),
  letters: whole(1200),
  unreturned: whole(1200),
});
const reason = string().trim().min(3, "Say in a few words why.").max(2000).required("Say in a few words why.");
export const holdSchema = object({ reason });
/** The second confirmation is whom one means, typed. */
export const eraseSchema = object({
  name: string().trim().max(400).required("Type the client’s whole name."),
  reason,
});
/** What was done about something that alarmed. */
export const closeAlertSchema = object({
  done: string()
    .trim()
    .min(3, "Say in a few words what was done.")
    .max(2000)
    .required("Say in a few words what was done."),
});
/** How a practice works with measures: when owners hear of an open alert, and what is asked first on a call. */
export const measurePolicySchema = object({
  alertHours: number()
    .typeError("Type a number of hours.")
    .integer("Type a whole number of hours.")
    .min(1, "At least one hour.")
    .max(longestAlertHours, `At most ${longestAlertHours} hours.`)
    .required("Type a number of hours."),
  checklist: string()
    .default("")
    .max(4000)
    .test(
      "lines",
      `At most ${mostChecks} lines of at most 300 characters.`,
      (text) =>
        (text ?? "").split("\n").length <= mostChecks && (text ?? "").split("\n").every((line) => line.length <= 300),
    ),
});

import { mixed, object, string } from "yup";
import { isId, isInstant, type Id, type Instant } from "../../core/shared";

/** An id as it stands in an address or a form. */
export const idInput = <Name extends string>() =>
  mixed<Id<Name>>((v): v is Id<Name> => typeof v === "string" && isId(v)).required();
/** Made by the page when it is shown: the same press twice carries the same one. */
export const requestInput = string()
  .test("id", "This page is out of date. Load it again.", (v) => v === undefined || isId(v))
  .required();
export const nothing = object({});
/** A moment as it was given out. */
export const instantInput = mixed<Instant>((v): v is Instant => typeof v === "string" && isInstant(v));

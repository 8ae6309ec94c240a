import { mixed, object, string } from "yup";
import type { Id } from "../../core/shared";

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
/** An id as it stands in an address or a form. */
export const idInput = <Name extends string>() =>
  mixed<Id<Name>>((v): v is Id<Name> => typeof v === "string" && uuid.test(v)).required();
/** Made by the page when it is shown: the same press twice carries the same one. */
export const requestInput = string().matches(uuid, "This page is out of date. Load it again.").required();
export const nothing = object({});

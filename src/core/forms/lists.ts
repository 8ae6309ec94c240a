import { array, string } from "yup";
import { isId, isLanguageTag } from "../shared";

/** A list as a hidden field carries it, with blanks between; or as it is. */
const listOf = (name: string, problem: string, fits: (item: string) => boolean) =>
  array(
    string()
      .required()
      .test(name, problem, (item) => item !== undefined && fits(item)),
  ).transform((value: unknown, original: unknown) =>
    typeof original === "string" ? original.split(" ").filter(Boolean) : value,
  );
export const languageList = () => listOf("language", "Choose languages.", isLanguageTag).max(20);
export const idList = (problem: string) => listOf("id", problem, isId).max(100);

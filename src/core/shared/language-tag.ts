/** A well-formed BCP 47 tag; `__proto__` and the like are none. */
export function isLanguageTag(tag: string): boolean {
  try {
    return /^[A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*$/.test(tag) && Intl.getCanonicalLocales(tag).length === 1;
  } catch {
    return false;
  }
}

const rightToLeft: ReadonlySet<string> = new Set(["Arab", "Hebr", "Thaa", "Syrc", "Nkoo", "Adlm", "Rohg"]);
/** Which way a language is written, by the script it is most likely written in. */
export const directionOf = (tag: string): "ltr" | "rtl" =>
  isLanguageTag(tag) && rightToLeft.has(new Intl.Locale(tag).maximize().script ?? "") ? "rtl" : "ltr";

const languageNames = new Intl.DisplayNames("en", { type: "language" });
/** A language's name in English: "Spanish" for es. What is no tag comes back as it is. */
export const languageName = (tag: string): string => (isLanguageTag(tag) ? (languageNames.of(tag) ?? tag) : tag);

/** The language of a tag without its region: "en" of "en-GB". */
export const mainLanguage = (tag: string): string => tag.split("-")[0]!.toLowerCase();

/** How a text runs, by its first letter that says so (as HTML's dir=auto); left to right where none does. */
export function writtenDirection(text: string): "ltr" | "rtl" {
  const first = /[\p{L}]/u.exec(text)?.[0];
  return first !== undefined && /[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}]/u.test(first)
    ? "rtl"
    : "ltr";
}

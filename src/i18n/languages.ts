/** The languages that our own texts for clients are in, each with the name its readers know it by. */
export const languageNames = { en: "English", es: "Español", fr: "Français", ar: "العربية" } as const;
export type ClientLanguage = keyof typeof languageNames;
export const clientLanguages = Object.keys(languageNames) as readonly ClientLanguage[];
export const isClientLanguage = (tag: string): tag is ClientLanguage => Object.hasOwn(languageNames, tag);

/** The language of ours that a reader of `language` gets: that one, or English. */
export function clientLanguage(language: string): ClientLanguage {
  const main = mainLanguage(language);
  return isClientLanguage(main) ? main : "en";
}
import { mainLanguage } from "../core/shared";

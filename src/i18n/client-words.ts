import { ar } from "./client/ar";
import { en, type ClientMessages } from "./client/en";
import { es } from "./client/es";
import { fr } from "./client/fr";
import { problemTranslator, translator } from "./translator";

/** The languages of the client's pages. Bound for the server: a page gets the one catalogue it needs (`fillMessages`). */
const catalogues: Readonly<Record<string, ClientMessages>> = { en, es, fr, ar };
export const clientLanguages = Object.keys(catalogues);

/** The language of ours that a reader of `language` gets: that one, or English. */
export const clientLanguage = (language: string): string => {
  const main = language.split("-")[0]!.toLowerCase();
  return Object.hasOwn(catalogues, main) ? main : "en";
};
const catalogueOf = (language: string): ClientMessages => catalogues[clientLanguage(language)]!;
export const fillMessages = (language: string): Pick<ClientMessages, "fill" | "problem"> => {
  const { fill, problem } = catalogueOf(language);
  return { fill, problem };
};

export const clientWords = <N extends keyof ClientMessages>(namespace: N, language = "en") =>
  translator(clientLanguage(language), catalogueOf(language), namespace);
export const problemWords = (key: keyof ClientMessages["problem"], limit: string, language = "en"): string =>
  problemTranslator(clientLanguage(language), catalogueOf(language))(key, limit);

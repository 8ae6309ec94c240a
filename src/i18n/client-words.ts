import { ar } from "./client/ar";
import { en, type ClientMessages } from "./client/en";
import { es } from "./client/es";
import { fr } from "./client/fr";
import { clientLanguage, type ClientLanguage } from "./languages";
import { problemTranslator, translator } from "./translator";

/** Bound for the server: a page gets the one catalogue it needs (`fillMessages`). */
const catalogues: Readonly<Record<ClientLanguage, ClientMessages>> = { en, es, fr, ar };
const catalogueOf = (language: string): ClientMessages => catalogues[clientLanguage(language)];
export const fillMessages = (language: string): Pick<ClientMessages, "fill" | "problem"> => {
  const { fill, problem } = catalogueOf(language);
  return { fill, problem };
};

export const clientWords = <N extends keyof ClientMessages>(namespace: N, language = "en") =>
  translator(clientLanguage(language), catalogueOf(language), namespace);
export const problemWords = (key: keyof ClientMessages["problem"], limit: string, language = "en"): string =>
  problemTranslator(clientLanguage(language), catalogueOf(language))(key, limit);

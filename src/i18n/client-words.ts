import compile from "icu-minify/compile";
import type { CompiledMessage } from "icu-minify/format";
import { ar } from "./client/ar";
import { en, type ClientMessages } from "./client/en";
import { es } from "./client/es";
import { fr } from "./client/fr";
import { clientLanguage, type ClientLanguage } from "./languages";
import { problemTranslator, type PageMessages } from "./page-words";
import { translator } from "./translator";

/** Bound for the server: a page gets the one catalogue it needs (`fillMessages`). */
const catalogues: Readonly<Record<ClientLanguage, ClientMessages>> = { en, es, fr, ar };
const catalogueOf = (language: string): ClientMessages => catalogues[clientLanguage(language)];
/** As plain values: what the compiler makes has no prototype, which no page is sent. */
const compiled = <Key extends string>(messages: Readonly<Record<Key, string>>) =>
  Object.fromEntries(
    Object.entries<string>(messages).map(([key, text]) => [
      key,
      JSON.parse(JSON.stringify(compile(text))) as CompiledMessage,
    ]),
  ) as Record<Key, CompiledMessage>;
/** The messages of a client's page, compiled. */
export const fillMessages = (language: string): PageMessages => {
  const { fill, problem } = catalogueOf(language);
  return { fill: compiled(fill), problem: compiled(problem) };
};

export const clientWords = <N extends keyof ClientMessages>(namespace: N, language = "en") =>
  translator(clientLanguage(language), catalogueOf(language), namespace);
export const problemWords = (key: keyof ClientMessages["problem"], limit: string, language = "en"): string =>
  problemTranslator(clientLanguage(language), fillMessages(language))(key, limit);

import format, { type CompiledMessage, type FormatOptions, type FormatValues } from "icu-minify/format";
import type { ClientMessages } from "./client/en";
import { pinned } from "./pinned";
import type { FillWords } from "./translator";

/** Messages of one language as the server compiled them: a page needs no parser to say them. */
export type PageMessages = {
  readonly [N in "fill" | "problem"]: Readonly<Record<keyof ClientMessages[N], CompiledMessage>>;
};
const formatters: FormatOptions["formatters"] = {
  getDateTimeFormat: (...given) => new Intl.DateTimeFormat(...given),
  getNumberFormat: (...given) => new Intl.NumberFormat(...given),
  getPluralRules: (...given) => new Intl.PluralRules(...given),
};
const sayer =
  <Key extends string>(locale: string, messages: Readonly<Record<Key, CompiledMessage>>) =>
  (key: Key, values?: FormatValues): string =>
    String(format(messages[key], pinned(locale), values, { formatters }));

/** Says the messages of a client's page. Their arguments are those of the English ones. */
export const fillTranslator = (locale: string, { fill }: Pick<PageMessages, "fill">): FillWords =>
  sayer(locale, fill) as unknown as FillWords;
/** The words for one problem. Its key decides which arguments the message takes, so the limit goes in as what it is. */
export const problemTranslator = (locale: string, { problem }: Pick<PageMessages, "problem">) => {
  const say = sayer(locale, problem);
  return (key: keyof ClientMessages["problem"], limit: string): string =>
    say(key, { limit: key === "decimals" ? Number(limit) : limit });
};

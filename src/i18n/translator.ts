import { createTranslator } from "use-intl/core";
import type { ClientMessages, en } from "./client/en";

/** Says the messages of one namespace. Their keys and arguments are those of the English ones, which every catalogue has. */
export const translator = <N extends keyof ClientMessages>(
  locale: string,
  messages: Pick<ClientMessages, N>,
  namespace: N,
) => createTranslator({ locale, namespace, messages: messages as unknown as typeof en });
export type FillWords = ReturnType<typeof translator<"fill">>;

/** The words for one problem. Its key decides which arguments the message takes, so the limit goes in as what it is. */
export function problemTranslator(
  locale: string,
  messages: Pick<ClientMessages, "problem">,
): (key: keyof ClientMessages["problem"], limit: string) => string {
  const say = translator(locale, messages, "problem") as unknown as (
    key: string,
    values: Record<string, string | number>,
  ) => string;
  return (key, limit) => say(key, { limit: key === "decimals" ? Number(limit) : limit });
}

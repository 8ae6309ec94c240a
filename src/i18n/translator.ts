import { createTranslator } from "use-intl/core";
import type { ClientMessages, en } from "./client/en";
import { pinned } from "./pinned";

/**
 * Says the messages of one namespace. Their keys and arguments are those of the English ones, which every catalogue
 * has.
 */
export const translator = <N extends keyof ClientMessages>(
  locale: string,
  messages: Pick<ClientMessages, N>,
  namespace: N,
) => createTranslator({ locale: pinned(locale), namespace, messages: messages as unknown as typeof en });
export type FillWords = ReturnType<typeof translator<"fill">>;

import { createContext, use } from "react";
import type { AnswerProblem } from "@/core/questionnaire";
import type { Id } from "@/core/shared";
import type { FillWords } from "@/i18n/translator";
import type { FillPart } from "@/usecases/filling";
import type { AnswerSync, Clash } from "./answer-sync";
import type { FillServer, PacketView } from "./fill-server";
import type { Steps } from "./use-steps";

/** What every step of the client's page has at hand. */
export interface Page extends Steps {
  readonly language: string;
  readonly words: FillWords;
  readonly say: (problem: AnswerProblem) => string;
  readonly view: PacketView;
  readonly server: FillServer;
  readonly sync: AnswerSync;
  readonly parts: readonly FillPart[];
  readonly clashes: readonly Clash[];
  /** Whose link it is, where it is another person's. */
  readonly nameOf: (link: Id<"Link"> | undefined) => string | undefined;
  /** Steps on which going on was tried: from then on what is missing is said. */
  readonly tried: ReadonlySet<number>;
  readonly setTried: (step: number) => void;
}
export const PageContext = createContext<Page | undefined>(undefined);
export function usePage(): Page {
  const page = use(PageContext);
  if (!page) throw new Error("A step stands outside the client's page.");
  return page;
}

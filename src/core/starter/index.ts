import { textsOf, type Questionnaire, type Translated } from "../questionnaire";
import { measures } from "./measures";
import { outlines } from "./outlines";
import table from "./sentences.json" with { type: "json" };

/**
 * What our own questionnaires say, in English, Spanish, French and Arabic. Published measures are not in it: their
 * translations are published too, and are not for us to make up.
 */
export const sentences = table as [en: string, es: string, fr: string, ar: string][];

/** The same questionnaire with Spanish, French and Arabic for every sentence of ours that stands in it. */
export function inOurLanguages(questionnaire: Questionnaire): Questionnaire {
  const known = new Map(sentences.map((s) => [s[0], s]));
  const said = (at: 1 | 2 | 3): Record<string, Translated> =>
    Object.fromEntries(
      textsOf(questionnaire).flatMap((t) => {
        const text = known.get(t.source)?.[at];
        return text === undefined ? [] : [[t.place, { text, of: t.source }]];
      }),
    );
  return { ...questionnaire, translations: { es: said(1), fr: said(2), ar: said(3) } };
}

/** What every practice can begin with, besides the files in `demo/questionnaires`. */
export const starterLibrary: readonly Questionnaire[] = [...outlines.map(inOurLanguages), ...measures];
export { disciplines, disciplineWords, fitsDiscipline, type Discipline } from "./disciplines";
export { readOutline, type OutlineHead } from "./outline";

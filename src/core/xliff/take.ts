import { sourceLanguage, textsOf, translationState, type Questionnaire, type Translated } from "../questionnaire";
import { fail, isLanguageTag, ok, type Result } from "../shared";
import { readXliff } from "./read";

export interface Taken {
  readonly questionnaire: Questionnaire;
  readonly language: string;
  /** How many translations are new or other than before. */
  readonly changed: number;
  /** Of those, how many were made from words that have changed since. */
  readonly outOfDate: number;
  /** Names in the file that stand for nothing here. */
  readonly unknown: readonly string[];
}

/**
 * Puts the translations of an XLIFF file into a questionnaire. Each is remembered with the words it was made from, so
 * one of words that have changed since is marked. What the file does not translate stays as it was.
 */
export function takeXliff(questionnaire: Questionnaire, text: string): Result<Taken, string> {
  const read = readXliff(text);
  if (!read.ok) return read;
  const { original, targetLanguage: language, sourceLanguage: from, units } = read.value;
  if (original !== questionnaire.url)
    return fail(`This file translates another questionnaire (${original || "it does not say which"}).`);
  if (!isLanguageTag(language)) return fail(`“${language}” is not a language tag.`);
  if (from.toLowerCase() !== sourceLanguage(questionnaire).toLowerCase())
    return fail(
      `This file translates from “${from}”, but the questionnaire is written in “${sourceLanguage(questionnaire)}”.`,
    );
  const texts = new Map(textsOf(questionnaire).map((t) => [t.place, t]));
  const said: Record<string, Translated> = { ...questionnaire.translations?.[language] };
  const unknown: string[] = [];
  let changed = 0;
  let outOfDate = 0;
  for (const unit of units) {
    const here = texts.get(unit.name);
    if (!here) {
      unknown.push(unit.name);
      continue;
    }
    if (unit.target === undefined) continue;
    const before = said[here.place];
    // One that was out of date when it went out and comes back untouched is still out of date.
    if (before && before.text === unit.target && (before.of === unit.source || !unit.confirmed)) continue;
    said[here.place] = { text: unit.target, of: unit.source };
    changed++;
    if (translationState(here, said[here.place]) === "out-of-date") outOfDate++;
  }
  return ok({
    questionnaire:
      changed === 0
        ? questionnaire
        : { ...questionnaire, translations: { ...questionnaire.translations, [language]: said } },
    language,
    changed,
    outOfDate,
    unknown,
  });
}

import type { Translated, Translations } from "../questionnaire";
import { isLanguageTag } from "../shared";
import { emptyText, isObject, type JsonObject, type Reader } from "./json";
import { url } from "./urls";

/**
 * Gathers what FHIR's `translation` extension says about single texts
 * (http://hl7.org/fhir/StructureDefinition/translation).
 */
export class TranslationsIn {
  private readonly said: Record<string, Record<string, Translated>> = {};

  /** Reads the translations of the text at `key` of what `holder` reads. */
  read(holder: Reader | undefined, key: string, place: string, source: string | undefined): void {
    if (!holder || !isObject(holder.json[`_${key}`])) return;
    const element = holder.part(`_${key}`)!;
    const from = new Map(
      element.extensions(url.translatedFrom).map((e) => [e.extensionValue("lang"), e.extensionValue("of")]),
    );
    for (const event of element.extensions(url.translation)) {
      const lang = event.extensionValue("lang");
      const content = event.extensionValue("content");
      if (typeof lang !== "string" || !isLanguageTag(lang) || typeof content !== "string") {
        event.problem('A translation needs "lang" (a language tag) and "content".');
        continue;
      }
      const of = from.get(lang);
      (this.said[lang] ??= {})[place] = { text: content, of: typeof of === "string" ? of : (source ?? "") };
    }
  }
  all(): { readonly translations?: Translations } {
    return Object.keys(this.said).length > 0 ? { translations: this.said } : {};
  }
}

/** `_key` beside a text: its translations, and for one that is out of date the words it was made from. */
export function translationsOut(
  translations: Translations | undefined,
  key: string,
  place: string,
  source: string,
): JsonObject {
  const extension = Object.entries(translations ?? {})
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .flatMap(([lang, said]) => {
      const t = Object.hasOwn(said, place) ? said[place] : undefined;
      if (!t || source === "") return [];
      const translation = {
        url: url.translation,
        extension: [
          { url: "lang", valueCode: lang },
          { url: "content", valueString: t.text },
        ],
      };
      return t.of === source
        ? [translation]
        : [
            translation,
            {
              url: url.translatedFrom,
              extension: [
                { url: "lang", valueCode: lang },
                { url: "of", valueString: t.of || emptyText },
              ],
            },
          ];
    });
  return extension.length > 0 ? { [`_${key}`]: { extension } } : {};
}

import { mainLanguage } from "../shared";
import { sameValue, textOf, type AnswerValue, type AnswerWords } from "./answer-value";
import {
  isQuestion,
  type AnswerOption,
  type Item,
  type Question,
  type Questionnaire,
  type Translated,
} from "./definition";
import { allItems } from "./walk";

/** One text that a client reads, in the language the questionnaire is written in. */
export interface SourceText {
  /**
   * What names it among the translations: `title`, `text:LINKID`, `option:KEY:LINKID`… Stays the same while the words
   * change.
   */
  readonly place: string;
  readonly part: "title" | "description" | "text" | "help" | "terms" | "example" | "low" | "high" | "option";
  readonly source: string;
  readonly linkId?: string;
}
export const sourceLanguage = (q: Questionnaire): string => q.language ?? "en";

/** The part of an option's place that names the option; an option's code stays while its words change. */
const optionKey = (o: AnswerOption): string =>
  encodeURIComponent(o.value.type === "coding" ? (o.value.value.code ?? o.value.value.display ?? "") : textOf(o.value));
export const optionPlace = (linkId: string, o: AnswerOption): string => `option:${optionKey(o)}:${linkId}`;

/**
 * Every text of a questionnaire that its client reads, in reading order. Numbers and dates among options need no
 * translation.
 */
export function textsOf(questionnaire: Questionnaire): SourceText[] {
  const whole: SourceText[] = [
    { place: "title", part: "title", source: questionnaire.title },
    { place: "description", part: "description", source: questionnaire.description ?? "" },
  ];
  return [...whole, ...allItems(questionnaire).flatMap(textsOfItem)].filter((t) => t.source.trim() !== "");
}
function textsOfItem(item: Item): SourceText[] {
  const { linkId } = item;
  const said = (part: SourceText["part"], source: string | undefined): SourceText[] =>
    source === undefined ? [] : [{ place: `${part}:${linkId}`, part, source, linkId }];
  // A score is read by the practice only.
  if (isQuestion(item) && item.score) return [];
  if (!isQuestion(item)) return said("text", item.text);
  return [
    ...said("text", item.text),
    ...said("help", item.help),
    ...said("terms", item.terms),
    ...said("example", item.entryFormat),
    ...said("low", item.ends?.[0]),
    ...said("high", item.ends?.[1]),
    ...item.options
      .filter((o) => o.value.type === "coding" || o.value.type === "string")
      .map((o) => ({ place: optionPlace(linkId, o), part: "option" as const, source: textOf(o.value), linkId })),
  ];
}

/** The languages somebody began to translate it into; the one it is written in is not among them. */
export const languagesOf = (q: Questionnaire): string[] =>
  Object.keys(q.translations ?? {})
    .filter((l) => Object.keys(q.translations?.[l] ?? {}).length > 0)
    .sort();

export type TranslationState = "done" | "missing" | "out-of-date";
export const translationState = (text: SourceText, translated: Translated | undefined): TranslationState => {
  if (translated === undefined) return "missing";
  if (translated.of === text.source) return "done";
  return "out-of-date";
};

/**
 * Which translation a reader of `language` gets: that one, or one of the same language elsewhere (`es` for `es-MX`);
 * undefined means the words it was written in.
 */
export function bestLanguage(questionnaire: Questionnaire, language: string): string | undefined {
  const all = languagesOf(questionnaire);
  return (
    all.find((l) => l.toLowerCase() === language.toLowerCase()) ??
    (mainLanguage(sourceLanguage(questionnaire)) === mainLanguage(language)
      ? undefined
      : all.find((l) => mainLanguage(l) === mainLanguage(language)))
  );
}

/**
 * Sets or, with empty words, takes away one translation, made from the words that stand there now. Options in the same
 * words ("Never" under twenty questions) are translated once: those that have no words of their own follow.
 */
export function withTranslation(
  questionnaire: Questionnaire,
  language: string,
  text: SourceText,
  words: string,
): Questionnaire {
  const said = questionnaire.translations?.[language] ?? {};
  const before = said[text.place]?.text;
  const follows = (other: SourceText): boolean => {
    if (other.place === text.place) return true;
    if (text.part !== "option" || other.part !== "option" || other.source !== text.source) return false;
    const own = said[other.place]?.text;
    return own === undefined || own === before;
  };
  const places = new Set(
    textsOf(questionnaire)
      .filter(follows)
      .map((other) => other.place),
  );
  places.add(text.place);
  const others = Object.fromEntries(Object.entries(said).filter(([place]) => !places.has(place)));
  return {
    ...questionnaire,
    translations: {
      ...questionnaire.translations,
      [language]:
        words.trim() === ""
          ? others
          : {
              ...others,
              ...Object.fromEntries([...places].map((place) => [place, { text: words, of: text.source }])),
            },
    },
  };
}
/** Without one language and all that was translated into it. */
export function withoutLanguage(questionnaire: Questionnaire, language: string): Questionnaire {
  const { [language]: _gone, ...translations } = questionnaire.translations ?? {};
  return { ...questionnaire, translations };
}

/**
 * The questionnaire as a reader of `language` sees it; what has no translation stays in the words it was written in.
 * Answers do not change with the language: an option keeps its value and gets other words in front of it.
 */
export function translate(questionnaire: Questionnaire, language: string): Questionnaire {
  const { translations, ...written } = questionnaire;
  const tag = bestLanguage(questionnaire, language);
  const said = tag === undefined ? undefined : translations?.[tag];
  if (tag === undefined || !said) return written;
  const words = (place: string, source: string): string => said[place]?.text ?? source;
  const option = (linkId: string, o: AnswerOption): AnswerOption => {
    const label = said[optionPlace(linkId, o)]?.text;
    return label === undefined ? o : { ...o, label };
  };
  const question = (item: Question): Question => {
    const { linkId, help, terms, ends, entryFormat } = item;
    return {
      ...item,
      text: words(`text:${linkId}`, item.text),
      options: item.options.map((o) => option(linkId, o)),
      items: item.items.map(one),
      ...(help === undefined ? {} : { help: words(`help:${linkId}`, help) }),
      ...(terms === undefined ? {} : { terms: words(`terms:${linkId}`, terms) }),
      ...(entryFormat === undefined ? {} : { entryFormat: words(`example:${linkId}`, entryFormat) }),
      ...(ends === undefined
        ? {}
        : { ends: [words(`low:${linkId}`, ends[0]), words(`high:${linkId}`, ends[1])] as const }),
    };
  };
  const one = (item: Item): Item => {
    if (isQuestion(item)) return question(item);
    const own = { ...item, text: words(`text:${item.linkId}`, item.text) };
    return own.type === "group" ? { ...own, items: own.items.map(one) } : own;
  };
  return {
    ...written,
    language: tag,
    title: words("title", questionnaire.title),
    ...(questionnaire.description === undefined
      ? {}
      : { description: words("description", questionnaire.description) }),
    items: questionnaire.items.map(one),
  };
}

/** The words of an option for its reader. */
export const optionWords = (o: AnswerOption, words?: AnswerWords): string => o.label ?? textOf(o.value, words);

/** The words of an answer for somebody who read the question as it stands here. */
export function answerText(question: Question, value: AnswerValue, words?: AnswerWords): string {
  return question.options.find((o) => sameValue(o.value, value))?.label ?? textOf(value, words);
}

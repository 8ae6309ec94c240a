/** How hard a text is to read, by the formula of its language. */
export interface Reading {
  readonly formula: "Flesch-Kincaid" | "Fernandez Huerta" | "Kandel-Moles";
  /** A school grade (Flesch-Kincaid; higher is harder) or a score of ease (the others; lower is harder). */
  readonly value: number;
  /** Harder than grade 6. */
  readonly hard: boolean;
}
/**
 * Highest grade that passes; the scores of ease call 80 and more easy, which is taken for grade 6 (common practice).
 */
export const highestGrade = 6;
const leastEase = 80;

/** Undefined for a language without a formula here, and for text without words. */
export function readingOf(text: string, language: string): Reading | undefined {
  const counted = counts(
    text,
    { en: syllablesIn, es: spanishSyllablesIn, fr: frenchSyllablesIn }[language.slice(0, 2)],
  );
  if (!counted) return undefined;
  const { wordsPerSentence, syllablesPerWord } = counted;
  switch (language.slice(0, 2)) {
    // Kincaid, Fishburne, Rogers, Chissom 1975.
    case "en": {
      const value = 0.39 * wordsPerSentence + 11.8 * syllablesPerWord - 15.59;
      return { formula: "Flesch-Kincaid", value, hard: value > highestGrade };
    }
    // Fernandez Huerta 1959: syllables per 100 words and words per sentence; its figures as the yoastseo package has
    // them.
    case "es": {
      const value = 206.84 - 0.6 * (100 * syllablesPerWord) - 1.02 * wordsPerSentence;
      return { formula: "Fernandez Huerta", value, hard: value < leastEase };
    }
    // Kandel, Moles 1958; its figures as the yoastseo package has them.
    case "fr": {
      const value = 207 - 1.015 * wordsPerSentence - 73.6 * syllablesPerWord;
      return { formula: "Kandel-Moles", value, hard: value < leastEase };
    }
    default:
      return undefined;
  }
}

function counts(
  text: string,
  syllables: ((word: string) => number) | undefined,
): { wordsPerSentence: number; syllablesPerWord: number } | undefined {
  if (!syllables) return undefined;
  const sentences = text.split(/[.!?:]+(?:\s|$)|\n+/).filter((s) => /\p{L}/u.test(s)).length;
  const words = text.match(/[\p{L}\p{N}'’]+/gu) ?? [];
  if (words.length === 0 || sentences === 0) return undefined;
  return {
    wordsPerSentence: words.length / sentences,
    syllablesPerWord: words.reduce((n, word) => n + syllables(word), 0) / words.length,
  };
}

/**
 * English: vowel groups, less a silent final e or ed; the i of "guardian" is heard, that of "physician" and "marriage"
 * is not; at least one.
 */
export function syllablesIn(word: string): number {
  const plain = word.toLowerCase().replace(/[^a-z]/g, "");
  if (plain.length <= 3) return 1;
  const heard = plain
    .replace(/(?:[^laeiouy]es|[^tdaeiouy]ed|[^laeiouy]e)$/, (end) => end.charAt(0))
    .replace(/^y/, "")
    .replace(/(?<![ctg])i(?=a(?!g(?:e|$)))/g, "$&-");
  return Math.max(1, heard.match(/[aeiouy]{1,2}/g)?.length ?? 1);
}
/**
 * Spanish: two strong vowels, or a weak one with an accent beside a strong one, are two syllables; the u of que and gui
 * is not heard.
 */
export function spanishSyllablesIn(word: string): number {
  const plain = word
    .toLowerCase()
    .normalize("NFC")
    .replace(/([qg])u(?=[eiéí])/g, "$1")
    .replace(/y(?=$)/, "i");
  return Math.max(1, plain.match(/[iuü]?[aeoáéó](?:[iuü](?![aeoáéóíú]))?|[íú]|[iuü]+/g)?.length ?? 1);
}
/**
 * French: vowel groups, less the u of que and gue and a silent e, es or ent (but not -ment) at the end of a word with
 * another vowel; é before another vowel, ë, ï and a y between vowels part two syllables.
 */
export function frenchSyllablesIn(word: string): number {
  const plain = word
    .toLowerCase()
    .normalize("NFC")
    .replace(/^[ldjmnstc]['’]|^qu['’]/, "")
    .replace(/([gq])u(?=[eiéèê])/g, "$1");
  const heard = plain
    .replace(/(?<=[aeiouyàâäéèêëîïôöùûüœæ].*[^aeiouyàâäéèêëîïôöùûüœæ])(?:es?|(?<!m)ent)$/, "")
    .replace(/é(?=[aàâiîoôuû])|(?<=c)o(?=o)/g, "$&-")
    .replace(/(?<=[aeioué])[ëï]/g, "-$&")
    .replace(/(?<=[aeiouéè])y(?=[aeiouéè])/g, "-");
  return Math.max(1, heard.match(/[aeiouyàâäéèêëîïôöùûüœæ]+/g)?.length ?? 1);
}

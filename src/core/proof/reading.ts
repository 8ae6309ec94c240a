/**
 * Reading grade of English text by Flesch and Kincaid: 0.39 x words per sentence + 11.8 x syllables per word - 15.59
 * (Kincaid, Fishburne, Rogers, Chissom 1975). Syllables are counted by the vowels heard, with a rule for silent endings.
 */
export function fleschKincaidGrade(text: string): number | undefined {
  const sentences = text.split(/[.!?:]+(?:\s|$)|\n+/).filter((s) => /\p{L}/u.test(s)).length;
  const words = text.match(/[\p{L}\p{N}'’]+/gu) ?? [];
  if (words.length === 0 || sentences === 0) return undefined;
  const syllables = words.reduce((n, word) => n + syllablesIn(word), 0);
  return 0.39 * (words.length / sentences) + 11.8 * (syllables / words.length) - 15.59;
}

/** Vowel groups, less a silent final e or ed; at least one. */
export function syllablesIn(word: string): number {
  const plain = word.toLowerCase().replace(/[^a-z]/g, '');
  if (plain.length <= 3) return 1;
  const heard = plain.replace(/(?:[^laeiouy]es|[^tdaeiouy]ed|[^laeiouy]e)$/, (end) => end.charAt(0)).replace(/^y/, '');
  return Math.max(1, heard.match(/[aeiouy]{1,2}/g)?.length ?? 1);
}

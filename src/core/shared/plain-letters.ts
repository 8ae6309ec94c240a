/**
 * Without marks, in small letters: "José" reads as "jose", "Łukasz" as far as Unicode takes marks apart. For finding,
 * never for storing.
 */
export const plainLetters = (text: string): string =>
  text.normalize("NFKD").replace(/\p{M}/gu, "").toLocaleLowerCase().trim();

/** Whether every word that was typed is somewhere in the text. Nothing typed finds every text. */
export function holdsWords(text: string, sought: string): boolean {
  const there = plainLetters(text);
  return plainLetters(sought)
    .split(/\s+/)
    .every((word) => there.includes(word));
}

/**
 * Arabic-Indic (U+0660 to U+0669) and Persian (U+06F0 to U+06F9) digits as 0 to 9; every other sign stays. Keyboards of
 * those scripts type them, and they are the same numbers.
 */
export const plainDigits = (text: string): string =>
  text.replace(/[\u0660-\u0669\u06F0-\u06F9]/g, (digit) => String(digit.codePointAt(0)! & 0xf));
/**
 * A number as typed anywhere, with a point before its decimals: also the Arabic decimal sign (U+066B), without the sign
 * between thousands (U+066C).
 */
export const plainNumber = (text: string): string =>
  plainDigits(text)
    .replace(/\u066C/g, "")
    .replace(/[,\u066B]/g, ".")
    .trim();

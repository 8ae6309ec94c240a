/** Letters and digits that nobody takes for each other when reading them aloud or off a screen. */
const signs = "ABCDEFGHJKMNPQRSTUVWXYZ23456789";
/** `length` of 31 signs, almost 5 bits each, from bytes at random: two for each sign. */
export const readableCode = (bytes: Uint8Array, length: number): string =>
  Array.from({ length }, (_, at) => signs[(bytes[at * 2]! * 256 + bytes[at * 2 + 1]!) % signs.length]).join("");
/** In groups of four, as it is shown. */
export const inFours = (code: string): string => code.replace(/(.{4})(?!$)/g, "$1-");
/** A digest in pieces of eight, so that it wraps and can be read aloud. */
export const inEights = (digest: string): string => digest.replace(/(.{8})(?!$)/g, "$1 ");
/** As it was typed: small letters, blanks and lines between the groups do not matter. */
export const typedCode = (typed: string): string => typed.toUpperCase().replace(/[^A-Z0-9]/g, "");

/**
 * Formats a short text can be asked in, by name: what it must match, and an example for the empty field. Plain enough
 * that none can be made to run long.
 */
export const textFormats = [
  { key: "digits", words: "digits only", pattern: "[0-9]+", example: "0123" },
  { key: "letters", words: "letters only", pattern: "[\\p{L} ]+", example: "Abc" },
  { key: "letters-digits", words: "letters and digits", pattern: "[\\p{L}\\p{N}]+", example: "A12" },
  { key: "capital-code", words: "capitals, a dash, digits", pattern: "[A-Z]{1,6}-[0-9]{1,10}", example: "AB-123" },
  { key: "year", words: "a year", pattern: "(19|20)[0-9]{2}", example: "1987" },
  { key: "clock", words: "hours and minutes", pattern: "[0-9]{1,3}:[0-5][0-9]", example: "7:30" },
] as const;
/** The format whose pattern this is; undefined for none and for one that came in with a file. */
export const formatOf = (pattern: string | undefined): (typeof textFormats)[number] | undefined =>
  textFormats.find((f) => f.pattern === pattern);

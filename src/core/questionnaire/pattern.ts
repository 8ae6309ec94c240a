/**
 * Reads patterns and matches them in a time that grows with the text alone: a pattern comes from a stranger's file, and
 * so does the text.
 */
export interface PatternReader {
  /** Whether the whole text is as the pattern says; true for one that cannot be read, as none such is taken in. */
  fits(pattern: string, text: string): boolean;
  /** Why a pattern is not taken, in words for who wrote the file; undefined when it is. */
  problem(pattern: string): string | undefined;
}
let reader: PatternReader | undefined;

/**
 * The server has it from the start. A page loads it where a questionnaire has a pattern: it is larger than all else
 * that checks answers.
 */
export const setPatternReader = (given: PatternReader): void => {
  reader = given;
};
/** Where no reader is there yet, a text is let through: whoever keeps it looks at it again. */
export const fitsPattern = (pattern: string, text: string): boolean => reader?.fits(pattern, text) ?? true;
export const patternProblem = (pattern: string): string | undefined => reader?.problem(pattern);
/** For a page: what came with a file may hold a pattern. */
export async function loadPatterns(): Promise<void> {
  if (!reader) setPatternReader((await import("./linear-pattern")).linearPatterns);
}

import { RE2JS } from "re2js";
import type { PatternReader } from "./pattern";

/** Longest pattern taken, in characters. */
const longestPattern = 500;
/** Most steps of a pattern's automaton: what one character of a text can cost. */
const mostSteps = 2000;

/** What has no automaton, and so no matching in linear time, or means something else there. */
const notTaken: readonly (readonly [RegExp, string])[] = [
  [/\(\?<?[=!]/, "looks ahead or behind, (?= (?! (?<= (?<!"],
  [/\\(?:[1-9]|k<)/, "refers back to what a group matched, \\1 or \\k<…>"],
  [/[*+?}]\+|\(\?>/, "never gives back what it took, a++ or (?>…)"],
];
/** With an `x` for each escaped sign and each class, so that what is left means what it says. */
const bare = (pattern: string): string =>
  pattern.replace(/\\(?:[pPu]\{[^}]*\}|[^1-9k])/gu, "x").replace(/\[[^\]]*\]/g, "x");

const compiled = new Map<string, RE2JS | undefined>();
function compile(pattern: string): RE2JS | undefined {
  if (!compiled.has(pattern)) {
    if (compiled.size >= 200) compiled.clear();
    compiled.set(pattern, read(pattern).compiled);
  }
  return compiled.get(pattern);
}
function read(pattern: string): { readonly compiled?: RE2JS; readonly problem?: string } {
  if (pattern.length > longestPattern) return { problem: `The regex is longer than ${longestPattern} characters.` };
  const [, named] = notTaken.find(([form]) => form.test(bare(pattern))) ?? [];
  if (named !== undefined)
    return { problem: `The regex ${named}; it could be made to run forever. Use a plainer one.` };
  try {
    const automaton = RE2JS.compile(RE2JS.translateRegExp(pattern));
    return automaton.programSize() > mostSteps
      ? { problem: "The regex has too many steps when its repeats are written out. Use a plainer one." }
      : { compiled: automaton };
  } catch (error) {
    const why = error instanceof Error ? error.message.replace(/^error parsing regexp: /, "") : "";
    return { problem: `The regex cannot be read: ${why.slice(0, 100)}` };
  }
}

/** RE2 (re2js): no backtracking. Syntax: RE2's, with the escapes of ECMA-262. */
export const linearPatterns: PatternReader = {
  fits: (pattern, text) => compile(pattern)?.matches(text) ?? true,
  problem: (pattern) => read(pattern).problem,
};

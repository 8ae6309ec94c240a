import type { AnswerChange } from "../questionnaire";
import type { Id } from "../shared";

/** What somebody who gets a copy may do: fill in, sign and return, or only read. */
export const copyRoles = ["fills", "reads"] as const;
export type CopyRole = (typeof copyRoles)[number];
/** What a link lets its holder do: that, or sign what came back. */
export const linkRoles = [...copyRoles, "signs"] as const;
export type LinkRole = (typeof linkRoles)[number];

/**
 * An answer as it lies on the server: its revision goes up by one with each save, and begins at 0 for what came from
 * the chart.
 */
export interface KeptAnswer {
  readonly change: AnswerChange;
  readonly revision: number;
  /** Whose link it was saved with; undefined for what came from the chart. */
  readonly by: Id<"Link"> | undefined;
}

/** An answer's name within its part: rows and values of one key are two things. */
export const changeName = ({ kind, key }: Pick<AnswerChange, "kind" | "key">): string => `${kind} ${key}`;

/**
 * Two people changed the rows of a repeating group at once. Both meant it: what either took away is gone, what either
 * added is there, theirs first. `base` is what both began with.
 */
export function mergeRows(
  base: readonly string[],
  mine: readonly string[],
  theirs: readonly string[],
): readonly string[] {
  const gone = new Set(base.filter((r) => !mine.includes(r) || !theirs.includes(r)));
  return [...theirs, ...mine.filter((r) => !theirs.includes(r))].filter((r) => !gone.has(r));
}

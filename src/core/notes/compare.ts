import { linesOf, plainText, type NoteContent } from "./content";

export interface ComparedLine {
  readonly text: string;
  readonly change: "same" | "added" | "removed";
}
/** Longer than any note: beyond it, a version is shown whole, without what changed. */
const mostCompared = 2000;
/**
 * The lines of a version, with those that the one before did not have and those that it had (the longest common
 * subsequence of lines, as `diff` finds it; Hunt & McIlroy 1976).
 */
export function compareVersions(before: NoteContent | undefined, after: NoteContent): readonly ComparedLine[] {
  const now = textLines(after);
  const then = before ? textLines(before) : now;
  if (now.length > mostCompared || then.length > mostCompared) return now.map((text) => ({ text, change: "same" }));
  const common: number[][] = Array.from({ length: then.length + 1 }, () =>
    Array.from({ length: now.length + 1 }, () => 0),
  );
  for (let row = then.length - 1; row >= 0; row--)
    for (let column = now.length - 1; column >= 0; column--)
      common[row]![column] =
        then[row] === now[column]
          ? common[row + 1]![column + 1]! + 1
          : Math.max(common[row + 1]![column]!, common[row]![column + 1]!);
  const out: ComparedLine[] = [];
  let [row, column] = [0, 0];
  while (row < then.length || column < now.length) {
    const same = row < then.length && column < now.length && then[row] === now[column];
    if (same) out.push({ text: now[column]!, change: "same" });
    else if (row < then.length && (column === now.length || common[row + 1]![column]! >= common[row]![column + 1]!)) {
      out.push({ text: then[row++]!, change: "removed" });
      continue;
    } else {
      out.push({ text: now[column++]!, change: "added" });
      continue;
    }
    row++;
    column++;
  }
  return out;
}
const textLines = (content: NoteContent): readonly string[] =>
  `${plainText(linesOf(content.body, content))}\n${plainText(linesOf(content.takeHome))}`
    .split("\n")
    .filter((line) => line.trim() !== "");

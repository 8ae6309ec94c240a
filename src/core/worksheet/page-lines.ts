import type { PrintedLine } from "./paper-lines";

/**
 * A piece of text where it stands on a page: its left lower corner, width and letter height, in points; `y` grows
 * upwards.
 */
export interface PlacedText {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly size: number;
}

/**
 * The pieces of one page as lines from the top, each from the left. A gap wider than two letters stands as three
 * blanks, so that columns can be told apart.
 */
export function pageLines(pieces: readonly PlacedText[]): PrintedLine[] {
  const rows: PlacedText[][] = [];
  const inOrder = pieces.filter((p) => p.text.trim() !== "").sort((a, b) => b.y - a.y || a.x - b.x);
  for (const piece of inOrder) {
    const row = rows.at(-1);
    if (row && row[0]!.y - piece.y < Math.max(row[0]!.size, piece.size) * 0.5) row.push(piece);
    else rows.push([piece]);
  }
  return rows.map((row) => {
    const across = row.sort((a, b) => a.x - b.x);
    const text = across.reduce((line, piece, index) => {
      const before = across[index - 1];
      if (!before) return piece.text;
      const gap = piece.x - (before.x + before.width);
      if (gap > piece.size) return `${line}   ${piece.text}`;
      return gap > piece.size * 0.15 ? `${line} ${piece.text}` : line + piece.text;
    }, "");
    return { text, size: Math.round(Math.max(...across.map((p) => p.size)) * 2) / 2 };
  });
}

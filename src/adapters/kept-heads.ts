import { existsSync, readFileSync } from "node:fs";
import type { KeptHead } from "../core/audit";
import { replaceFile } from "./files-on-disk";

/** Where the journal's head is kept outside the database. */
export interface KeptHeads {
  /** Oldest first. */
  all(): readonly KeptHead[];
  keep(head: KeptHead): void;
}
/** Of the newest all are kept, of earlier days the last one each. */
const newest = 20;

/** A file of one JSON line each. A line that cannot be read is left out: the others still tell. */
export function keptHeadsIn(path: string): KeptHeads {
  const all = (): KeptHead[] =>
    existsSync(path)
      ? readFileSync(path, "utf8")
          .split("\n")
          .flatMap((line) => {
            try {
              return [JSON.parse(line) as KeptHead];
            } catch {
              return [];
            }
          })
      : [];
  return {
    all,
    keep(head) {
      const there = all();
      // Another process on the same database may have come further.
      if (there.some((k) => k.practiceId === head.practiceId && k.seq >= head.seq)) return;
      replaceFile(
        path,
        `${thinned([...there, head])
          .map((k) => JSON.stringify(k))
          .join("\n")}\n`,
      );
    },
  };
}
export function keptHeadsInMemory(): KeptHeads {
  let all: readonly KeptHead[] = [];
  return {
    all: () => all,
    keep: (head) => {
      all = thinned([...all, head]);
    },
  };
}
const dayOf = (head: KeptHead): string => head.at.slice(0, 10);
const thinned = (all: readonly KeptHead[]): KeptHead[] =>
  all.filter((head, index) => index === 0 || index >= all.length - newest || dayOf(head) !== dayOf(all[index + 1]!));

import { existsSync, readFileSync } from "node:fs";
import type { KeptErasure } from "../core/audit";
import { replaceFile } from "./files-on-disk";

/** Who was erased, kept outside the database, so that no older copy of it brings them back. */
export interface KeptErasures {
  all(): readonly KeptErasure[];
  keep(erasures: readonly KeptErasure[]): void;
}
/** A file of one JSON line each, ids only. A line that cannot be read is left out. */
export function keptErasuresIn(path: string): KeptErasures {
  const all = (): KeptErasure[] =>
    existsSync(path)
      ? readFileSync(path, "utf8")
          .split("\n")
          .flatMap((line) => {
            try {
              return [JSON.parse(line) as KeptErasure];
            } catch {
              return [];
            }
          })
      : [];
  return {
    all,
    keep(erasures) {
      const there = all();
      const fresh = erasures.filter(({ clientId }) => there.every((kept) => kept.clientId !== clientId));
      if (fresh.length > 0)
        replaceFile(path, `${[...there, ...fresh].map((kept) => JSON.stringify(kept)).join("\n")}\n`);
    },
  };
}
export function keptErasuresInMemory(): KeptErasures {
  const kept: KeptErasure[] = [];
  return { all: () => kept, keep: (erasures) => void kept.push(...erasures) };
}

import { Directory } from "../core/chart";
import type { ChangedClients, KnownClient, Practice } from "../db/repositories";

interface Kept {
  readonly directory: Directory<KnownClient>;
  mark: string | undefined;
  /** Which reading it is up to date with. */
  applied: number;
}
/** Everybody of each practice, opened in this process's memory and brought up to date with each question. */
export class Directories {
  private readonly kept = new Map<string, Kept>();
  private readings = 0;

  /** @param read who changed since a mark; without one, everybody */
  async of(
    { id, locale }: Pick<Practice, "id" | "locale">,
    read: (mark: string | undefined) => Promise<ChangedClients>,
  ): Promise<Directory<KnownClient>> {
    const key = `${id} ${locale}`;
    const kept = this.kept.get(key) ?? { directory: new Directory<KnownClient>(locale), mark: undefined, applied: 0 };
    this.kept.set(key, kept);
    const reading = ++this.readings;
    const { clients, mark } = await read(kept.mark);
    // Of two that read at once, the one begun last has all that the other has.
    if (reading > kept.applied) {
      kept.applied = reading;
      kept.mark = mark;
      kept.directory.take(clients);
    }
    return kept.directory;
  }
}

import { existsSync, readdirSync, statfsSync, statSync } from "node:fs";
import { momentOf } from "../core/backup";
import type { Instant } from "../core/shared";

/** What can be seen of the machine the application is on. */
export interface Watch {
  /** Whether backups ought to be made: not for a trial. */
  readonly isForReal: boolean;
  readonly backupsAreSet: boolean;
  /** Of those in the folder they are made in. */
  newestBackup(): Instant | undefined;
  /** Bytes free where the data lies. */
  free(): number;
  /** Others on the machine can read the key. */
  keyIsOpen(): boolean;
}
export interface Watched {
  readonly isForReal: boolean;
  readonly dataFolder: string;
  readonly backupFolder: string | undefined;
  /** Undefined where the key is no file. */
  readonly keyFile: string | undefined;
}
export const watchOver = ({ isForReal, dataFolder, backupFolder, keyFile }: Watched): Watch => ({
  isForReal,
  backupsAreSet: backupFolder !== undefined,
  newestBackup() {
    if (backupFolder === undefined || !existsSync(backupFolder)) return undefined;
    return readdirSync(backupFolder)
      .flatMap((name) => momentOf(name) ?? [])
      .toSorted()
      .at(-1);
  },
  free() {
    if (!existsSync(dataFolder)) return Infinity;
    const { bavail, bsize } = statfsSync(dataFolder);
    return bavail * bsize;
  },
  keyIsOpen: () => keyFile !== undefined && existsSync(keyFile) && (statSync(keyFile).mode & 0o077) !== 0,
});

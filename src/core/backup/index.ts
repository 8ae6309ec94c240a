export { backupName, keptBackups, momentOf } from "./rotation";
export { differences, type BackupHead, type TableRecord } from "./manifest";
export { lateAfter, lowDisk, warningWords, type Warning } from "./warnings";

export { backupName, keptBackups, momentOf } from "./rotation";
export { differences, type BackupHead, type TableRecord } from "./manifest";

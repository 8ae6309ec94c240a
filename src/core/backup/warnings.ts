/** What whoever answers for the installation has to know, and what to do about it. */
export type Warning =
  | { readonly kind: "no-backups" }
  | { readonly kind: "backup-late"; readonly days: number }
  | { readonly kind: "mail-failing"; readonly letters: number }
  | { readonly kind: "disk-low"; readonly megabytes: number }
  | { readonly kind: "clock-back"; readonly minutes: number }
  | { readonly kind: "key-open" }
  | { readonly kind: "anchor-late"; readonly days: number };

const many = (count: number, one: string, more: string): string => `${count} ${count === 1 ? one : more}`;
export function warningWords(warning: Warning): string {
  switch (warning.kind) {
    case "no-backups":
      return "No backups are made. Set KIND_LEDGER_BACKUPS, or run npm run kind -- backup FILE each day.";
    case "backup-late":
      return `The newest backup is ${many(warning.days, "day", "days")} old. The log says why none was made since.`;
    case "mail-failing":
      return `${many(warning.letters, "letter was", "letters were")} tried again and again and did not go out. The Post room says why.`;
    case "disk-low":
      return `The disk has ${warning.megabytes} MB left. When it is full, nothing can be saved.`;
    case "clock-back":
      return `The machine’s clock was set back by about ${many(warning.minutes, "minute", "minutes")}: the journal has rows from later. Links and sessions last longer than they should until then.`;
    case "key-open":
      return "Others on the machine can read the key file. Run chmod 600 on it, and put a new key in front: npm run kind -- keys rotate.";
    case "anchor-late":
      return `Where the journal stood was kept outside the database ${many(warning.days, "day", "days")} ago last. Can the file be written?`;
    default:
      return warning satisfies never;
  }
}
/** Bytes below which a disk is low. */
export const lowDisk = 1_000_000_000;
/** Days after which a backup, or an anchor, is late. */
export const lateAfter = { backup: 2, anchor: 2 } as const;

/** What may stand in a log: never a name, an address, an answer, or an id of a person. */
export type LogFields = Readonly<Record<string, string | number | boolean | undefined>>;
type Level = "info" | "warn" | "error";

/**
 * One line for each thing that happened: words for who looks on, or with KIND_LEDGER_LOG=json an object for a machine.
 */
function write(level: Level, event: string, fields: LogFields): void {
  if (process.env["KIND_LEDGER_LOG"] === "json") {
    process.stdout.write(`${JSON.stringify({ at: new Date().toISOString(), level, event, ...fields })}\n`);
    return;
  }
  const more = Object.entries(fields).flatMap(([name, value]) => (value === undefined ? [] : [`${name}=${value}`]));
  const line = [`kind-ledger: ${event}`, ...more].join(" ");
  if (level === "info") console.log(line);
  else if (level === "warn") console.warn(line);
  else console.error(line);
}
export const log = {
  info: (event: string, fields: LogFields = {}): void => write("info", event, fields),
  warn: (event: string, fields: LogFields = {}): void => write("warn", event, fields),
  error: (event: string, fields: LogFields = {}): void => write("error", event, fields),
};
/**
 * What kind of error it was: its message may hold what somebody typed. Of the database's own, which say a code and the
 * name of a rule and nothing else, what they say.
 */
export function nameOfError(error: unknown): string {
  if (!(error instanceof Error)) return "unknown";
  return error.name === "StorageError" ? error.message : error.name;
}

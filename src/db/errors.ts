import { DrizzleQueryError } from "drizzle-orm/errors";

/**
 * A database failure without the SQL and the bound values: Drizzle puts both in its message, and they would carry
 * answers into logs. `code` is the SQLSTATE.
 */
export class StorageError extends Error {
  constructor(
    readonly code: string | undefined,
    readonly constraint: string | undefined,
  ) {
    super(`The database refused (${code ?? "no code"}${constraint ? `, ${constraint}` : ""}).`);
    this.name = "StorageError";
  }
}

/**
 * The database does not answer just now: it starts again, somebody holds what is asked for, or it took too long. Nothing
 * was done; asking again makes sense. Known by `digest`, which is all that reaches a browser: the bundler gives classes
 * other names.
 */
export class BusyError extends StorageError {
  readonly digest = "busy";
}
export const isBusy = (error: unknown): boolean =>
  typeof error === "object" && error !== null && "digest" in error && error.digest === "busy";
/** SQLSTATE classes of what passes (PostgreSQL's appendix A), and the system's codes of a line that is down. */
const passing =
  /^(?:08...|53...|57P0[1-5]|55P03|57014|25P0[34]|40001|40P01|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENOTFOUND|EAI_AGAIN)$/;
/** The driver's own words, which have no code. */
const passingWords =
  /^(?:timeout exceeded when trying to connect|Connection terminated|Client has encountered a connection error)/;

interface DriverError {
  code?: unknown;
  message?: unknown;
  constraint?: unknown;
  cause?: unknown;
}
const asDriverError = (value: unknown): DriverError | undefined =>
  typeof value === "object" && value !== null ? (value as DriverError) : undefined;

/**
 * Whether an error came from a statement. By its shape as well as its class: the bundler gives classes other names, and
 * there may be two copies of one. `severity` is what a driver's own error has.
 */
const isOfStatement = (error: Error): boolean =>
  error instanceof DrizzleQueryError || "severity" in error || ("query" in error && "params" in error);

/** Runs database work; whatever the driver throws comes out as a StorageError. Other errors pass. */
export async function withoutValues<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof Error) || error instanceof StorageError) throw error;
    const cause = asDriverError((error as { cause?: unknown }).cause) ?? asDriverError(error);
    const code = typeof cause?.code === "string" ? cause.code : undefined;
    if (passing.test(code ?? "") || passingWords.test(String(cause?.message))) throw new BusyError(code, undefined);
    if (isOfStatement(error)) {
      throw new StorageError(code, typeof cause?.constraint === "string" ? cause.constraint : undefined);
    }
    throw error;
  }
}

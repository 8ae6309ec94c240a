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

interface DriverError {
  code?: unknown;
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
    if (error instanceof Error && isOfStatement(error)) {
      const cause = asDriverError((error as { cause?: unknown }).cause) ?? asDriverError(error);
      throw new StorageError(
        typeof cause?.code === "string" ? cause.code : undefined,
        typeof cause?.constraint === "string" ? cause.constraint : undefined,
      );
    }
    throw error;
  }
}

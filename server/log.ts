import { pino } from "pino";
import { databaseError } from "./database-error";

/** One line of JSON per event; never what people typed, never secrets. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? "info",
  redact: ["password", "*.password", "token", "*.token"],
});

/** Errors whose message the language makes, out of the program’s own names. */
const OWN_WORDS = new Set(["TypeError", "ReferenceError"]);

/**
 * What a log may say of an error: where it happened and what kind it was. The message of most errors holds what somebody typed,
 * and so do a query’s parameters and the database’s own details.
 */
export function traceOf(error: unknown) {
  const database = databaseError(error);
  if (!(error instanceof Error)) return { error: typeof error };
  return {
    error: OWN_WORDS.has(error.name) ? `${error.name}: ${error.message}` : error.name,
    at: framesOf(error),
    ...(database ? { database: { code: database.code, constraint: database.constraint, table: database.table } } : {}),
  };
}

/** The stack without the message it begins with. */
function framesOf({ stack = "", message }: Error): string[] {
  return stack
    .slice(Math.max(0, stack.indexOf(message)) + message.length)
    .split("\n")
    .filter((line) => /^\s+at .*:\d+:\d+\)?$/.test(line))
    .map((line) => line.trim())
    .slice(0, 12);
}

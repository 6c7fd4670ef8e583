/** What PostgreSQL said, out of whatever it was wrapped in. */
export interface DatabaseError {
  code: string;
  constraint?: string;
  table?: string;
}

/** The database’s own error behind this one, if there is one. */
export function databaseError(error: unknown): DatabaseError | null {
  for (
    let e = error as { code?: unknown; severity?: unknown; cause?: unknown } | null | undefined;
    e;
    e = e.cause as typeof e
  )
    if (typeof e.code === "string" && /^[0-9A-Z]{5}$/.test(e.code) && "severity" in e) return e as DatabaseError;
  return null;
}

/** True when the error means that the database can't be reached, rather than that it refused something. */
export function isDatabaseDown(error: unknown): boolean {
  for (let e = error as { code?: string; message?: string; cause?: unknown } | undefined; e; e = e.cause as typeof e) {
    // 57P0x: shut down by an operator, crashed, starting up. 08xxx: connection lost. 53xxx: no room for one more, or on its disk. 58xxx and
    // XXxxx: its own files fail it, as on a full disk. 57014: took too long.
    if (
      typeof e.code === "string" &&
      /^(57P0\d|57014|08\w{3}|53\w{3}|58\w{3}|XX\w{3}|25P0[34]|55P03|ECONNREFUSED|ECONNRESET|EPIPE|ENOENT|ETIMEDOUT)$/.test(
        e.code,
      )
    )
      return true;
    if (
      /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error|Query read timeout|Cannot use a pool after calling end/i.test(
        e.message ?? "",
      )
    )
      return true;
    if (e instanceof AggregateError && e.errors.some(isDatabaseDown)) return true;
  }
  return false;
}

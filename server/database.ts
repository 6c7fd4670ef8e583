import { type Database, connect } from "../db/client";
import { log } from "./log";

let db: Database | undefined;

/** The process's one pool, on DATABASE_URL. */
export function database(): Database {
  if (!db) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error("DATABASE_URL is not set.");
    db = connect(url, (error) => log.warn({ error: error.message }, "a database connection was lost"));
  }
  return db;
}

/** True when the error means that the database can't be reached, rather than that it refused something. */
export function isDatabaseDown(error: unknown): boolean {
  for (let e = error as { code?: string; message?: string; cause?: unknown } | undefined; e; e = e.cause as typeof e) {
    // 57P0x: shut down by an operator, crashed, starting up. 08xxx: connection lost.
    if (typeof e.code === "string" && /^(57P0\d|08\w{3}|ECONNREFUSED|ECONNRESET|EPIPE|ENOENT)$/.test(e.code))
      return true;
    if (
      /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/i.test(
        e.message ?? "",
      )
    )
      return true;
    if (e instanceof AggregateError && e.errors.some(isDatabaseDown)) return true;
  }
  return false;
}

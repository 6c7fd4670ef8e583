import { type Database, connect } from "../db/client";
import { log } from "./log";

let db: Database | undefined;

/** The process's one pool, on DATABASE_URL. */
export function database(): Database {
  if (!db) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error("DATABASE_URL is not set.");
    db = connect(url, { serving: true, onLost: () => log.warn("a database connection was lost") });
  }
  return db;
}

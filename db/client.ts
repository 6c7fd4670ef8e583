import { drizzle } from "drizzle-orm/node-postgres";
import pg from "pg";
import * as schema from "./schema";

export type Database = ReturnType<typeof connect>;
export type Transaction = Parameters<Parameters<Database["transaction"]>[0]>[0];

/** A pool on one database. Connections that die while idle are replaced, not fatal. */
export function connect(url: string, onIdleError: (error: Error) => void = () => {}) {
  // Fails soon when the server is gone: someone is waiting with an entry in hand.
  const pool = new pg.Pool({
    connectionString: url,
    max: 10,
    connectionTimeoutMillis: 3000,
    idleTimeoutMillis: 30_000,
    // Short queries only: compiling a plan would take longer than running it.
    options: "-c jit=off",
  });
  pool.on("error", onIdleError);
  return drizzle({ client: pool, schema, casing: "snake_case" });
}

export function poolOf(db: Database): pg.Pool {
  return db.$client as pg.Pool;
}

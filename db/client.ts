import { type NodePgDatabase, type NodePgQueryResultHKT, drizzle } from "drizzle-orm/node-postgres";
import type { PgDatabase } from "drizzle-orm/pg-core";
import pg from "pg";
import * as schema from "./schema";

export type Database = ReturnType<typeof connect>;
/** What a write works on: statements that are done together or not at all. */
export type Transaction = PgDatabase<NodePgQueryResultHKT, typeof schema>;

// Short queries only: compiling a plan would take longer than running it.
const PLAN = "-c jit=off";
/** While somebody waits with an entry in hand: nothing holds a row, a connection or a process for ever, ms. */
const LIMITS = "-c lock_timeout=5000 -c statement_timeout=15000 -c idle_in_transaction_session_timeout=15000";

/**
 * A pool on one database. Connections that die are replaced, whether idle or in the middle of something: who used one hears it as the
 * failure of its query.
 *
 * @param serving behind the application: nothing may take long
 */
export function connect(
  url: string,
  { serving = false, onLost = () => {} }: { serving?: boolean; onLost?: () => void } = {},
) {
  // Fails soon when the server is gone: someone is waiting with an entry in hand.
  const pool = new pg.Pool({
    connectionString: url,
    max: 10,
    connectionTimeoutMillis: 3000,
    idleTimeoutMillis: 30_000,
    options: serving ? `${PLAN} ${LIMITS}` : PLAN,
    ...(serving ? { query_timeout: 20_000 } : {}),
  });
  pool.on("error", onLost);
  // A checked-out connection that dies without a listener of its own would end the process.
  pool.on("connect", (client) => client.on("error", onLost));
  return drizzle({ client: pool, ...SHAPE });
}

const SHAPE = { schema, casing: "snake_case" } as const;

/** One to each connection of a pool: what was prepared on it serves every write that comes over it, as it does every read over the pool. */
const ofConnection = new WeakMap<pg.PoolClient, NodePgDatabase<typeof schema>>();

/** One transaction: done whole, or not at all where the work fails. */
export async function transact<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  const client = await poolOf(db).connect();
  try {
    const own = ofConnection.get(client) ?? drizzle({ client, ...SHAPE });
    ofConnection.set(client, own);
    return await own.transaction(() => work(own));
  } finally {
    client.release();
  }
}

export function poolOf(db: Database): pg.Pool {
  return db.$client as pg.Pool;
}

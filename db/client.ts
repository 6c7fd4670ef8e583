import { type NodePgDatabase, type NodePgQueryResultHKT, drizzle } from "drizzle-orm/node-postgres";
import type { PgDatabase } from "drizzle-orm/pg-core";
import pg from "pg";
import * as schema from "./schema";
import { begin, isInside } from "./wall";

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
    pipeline: true,
    options: serving ? `${PLAN} ${LIMITS}` : PLAN,
    ...(serving ? { query_timeout: 20_000 } : {}),
  });
  pool.on("error", onLost);
  // A checked-out connection that dies without a listener of its own would end the process.
  pool.on("connect", (client) => client.on("error", onLost));
  pool.query = behindWall(pool);
  return drizzle({ client: pool, ...SHAPE });
}

/**
 * A pool’s own way of asking something: where a workshop is named, in a transaction of its own that names it, and that only reads. All three
 * statements are sent at once, so that it takes no longer than the question does.
 */
function behindWall(pool: pg.Pool): pg.Pool["query"] {
  const bare = pool.query.bind(pool) as (...args: unknown[]) => Promise<unknown>;
  const walled = async (...args: unknown[]) => {
    if (!isInside()) return bare(...args);
    const opening = begin("read only");
    const client = await pool.connect();
    const [opened, asked, ended] = await Promise.allSettled([
      client.query(opening),
      (client.query as typeof bare).apply(client, args),
      client.query("commit"),
    ]);
    client.release(ended.status === "rejected" ? (ended.reason as Error) : undefined);
    // A question that was not asked behind the wall has no answer.
    for (const done of [opened, asked]) if (done.status === "rejected") throw done.reason;
    return (asked as PromiseFulfilledResult<unknown>).value;
  };
  return walled as pg.Pool["query"];
}

const SHAPE = { schema, casing: "snake_case" } as const;

/** One to each connection of a pool: what was prepared on it serves every write that comes over it, as it does every read over the pool. */
const ofConnection = new WeakMap<pg.PoolClient, NodePgDatabase<typeof schema>>();

/** One transaction: done whole, or not at all where the work fails. */
export async function transact<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  const opening = begin();
  const client = await poolOf(db).connect();
  const release = (lost?: Error) => client.release(lost);
  try {
    await client.query(opening);
    const own = ofConnection.get(client) ?? drizzle({ client, ...SHAPE });
    ofConnection.set(client, own);
    const result = await work(own);
    await client.query("commit");
    release();
    return result;
  } catch (error) {
    // A connection that can’t go back is thrown away.
    await client.query("rollback").then(() => release(), release);
    throw error;
  }
}

export function poolOf(db: Database): pg.Pool {
  return db.$client as pg.Pool;
}

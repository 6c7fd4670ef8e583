import { setTimeout as wait } from "node:timers/promises";
import { fileURLToPath } from "node:url";
import { readMigrationFiles } from "drizzle-orm/migrator";
import type { PoolClient } from "pg";
import { type Database, poolOf } from "./client";
import { makeViews } from "./open/views";

/**
 * Brings a database up to date, beside an application that goes on working on it: old web processes are replaced one by one.
 *
 * A migration is done whole or not at all. One that begins with `-- online` is done statement by statement instead, for what takes long on
 * much data: it may be cut off anywhere and is begun again.
 */

const FOLDER = fileURLToPath(new URL("./migrations", import.meta.url));
const ONLINE = "-- online";

/** Nobody’s request waits longer than this behind a lock that a migration asks for. */
const LOCK = "1s";
const TRIES = 60;
/** What waits without stopping anybody may wait. */
const PATIENT = /\bconcurrently\b|\bvalidate\b|^\s*call\b/i;
/** Two starts at one moment: the second waits, and finds it done. The number is this application’s own, and means nothing. */
const ONE_AT_A_TIME = 727_404_111;

/**
 * @param upTo how many migrations of the folder, ≥ 0: all of them but in tests
 * @param onStep hears each as it begins
 */
export async function migrateUp(
  db: Database,
  { upTo = Infinity, onStep = () => {} }: { upTo?: number; onStep?: (step: number, of: number) => void } = {},
): Promise<void> {
  const client = await poolOf(db).connect();
  try {
    await turn(client);
    // Where it and somebody’s request stand in each other’s way, this one gives way: it looks sooner than they do. Not everybody may set it.
    await client.query("set deadlock_timeout = '50ms'").catch(() => {});
    await client.query("create schema if not exists drizzle");
    await client.query(
      "create table if not exists drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)",
    );
    const { rows } = await client.query<{ last: string | null }>(
      "select max(created_at)::text as last from drizzle.__drizzle_migrations",
    );
    const last = Number(rows[0]?.last ?? 0);
    const all = readMigrationFiles({ migrationsFolder: FOLDER });
    const due = all.slice(0, upTo).filter((m) => m.folderMillis > last);
    for (const [i, { sql, hash, folderMillis }] of due.entries()) {
      onStep(i + 1, due.length);
      const done = () =>
        client.query("insert into drizzle.__drizzle_migrations (hash, created_at) values ($1, $2)", [
          hash,
          folderMillis,
        ]);
      if (!sql[0]!.trimStart().startsWith(ONLINE)) await whole(client, sql, done);
      else {
        for (const statement of sql) await beside(client, statement);
        await done();
      }
    }
    if (upTo === Infinity) await again(() => makeViews(client));
  } finally {
    // Locks and settings of this session end with it.
    client.release(true);
  }
}

/** Asked for again and again, not waited for: a statement that waits would hold up an index that is being built beside it. */
async function turn(client: PoolClient): Promise<void> {
  for (;;) {
    const { rows } = await client.query<{ mine: boolean }>(`select pg_try_advisory_lock(${ONE_AT_A_TIME}) as mine`);
    if (rows[0]!.mine) return;
    await wait(200);
  }
}

async function whole(client: PoolClient, statements: readonly string[], done: () => Promise<unknown>): Promise<void> {
  await again(async () => {
    await client.query("begin");
    try {
      await client.query(`set local lock_timeout = '${LOCK}'`);
      for (const statement of statements) await client.query(statement);
      await done();
      await client.query("commit");
    } catch (error) {
      await client.query("rollback");
      throw error;
    }
  });
}

async function beside(client: PoolClient, statement: string): Promise<void> {
  await client.query(`set lock_timeout = '${PATIENT.test(withoutComments(statement)) ? "0" : LOCK}'`);
  await again(() => client.query(statement));
}

const withoutComments = (statement: string) => statement.replace(/^[ \t]*--.*$/gm, "");

/** Lock not to be had in time, or in each other’s way: let the others through, and try again. */
const HELD_UP = ["55P03", "40P01"];

async function again(work: () => Promise<unknown>): Promise<void> {
  for (let i = 1; ; i++)
    try {
      await work();
      return;
    } catch (error) {
      if (i === TRIES || !HELD_UP.includes((error as { code?: string }).code ?? "")) throw error;
      await wait(100 * Math.min(i, 20));
    }
}

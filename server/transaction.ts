import { setTimeout as wait } from "node:timers/promises";
import { sql } from "drizzle-orm";
import { type Transaction, transact } from "../db/client";
import { database } from "./database";
import { databaseError } from "./database-error";
import { refusedByDatabase } from "./database-words";

/** How often a write is tried again that lost against another one through nobody’s fault. */
const TRIES = 8;
/** Deadlock, serialization failure, and a lock that did not come in time. */
const LOST = new Set(["40P01", "40001", "55P03"]);

/**
 * Every write goes through here: one transaction, done whole or not at all. Where two writes met and the database gave one up, it is
 * tried again; what the database refuses becomes the sentence it means.
 *
 * @param work may run more than once: it changes nothing but the database
 */
export async function inTransaction<T>(work: (tx: Transaction) => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await transact(database(), work);
    } catch (error) {
      if (attempt >= TRIES || !LOST.has(databaseError(error)?.code ?? "")) throw refusedByDatabase(error) ?? error;
      // Apart, or they meet again.
      await wait(Math.random() * 10 * 2 ** attempt);
    }
  }
}

/**
 * What is counted before it is added to is counted by one transaction at a time, of those that say the same: two that count together would both
 * find room for one.
 *
 * @param what is counted, and of whom
 */
export async function oneByOne(tx: Pick<Transaction, "execute">, what: string): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${what}, 0))`);
}

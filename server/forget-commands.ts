import { not, sql } from "drizzle-orm";
import { workshopIds } from "../db/queries/doors";
import { session } from "../db/schema";
import { inWorkshop } from "../db/wall";
import { database } from "./database";
import { log, traceOf } from "./log";
import { lives } from "./sessions";
import { inTransaction } from "./transaction";

/**
 * Command ids are the largest table there is, and of use only while the same request can still come: a phone keeps what it could not send
 * until it is signed in again, at most 14 days for a session, and a drawer may hide it for some weeks more. The database lets none go sooner.
 */
export const KEPT_DAYS = 60;

const AT_A_TIME = 5000;

/**
 * Forgets command ids that no request can repeat any more, some at a time, so that nobody waits behind it.
 *
 * @returns how many
 */
export async function forgetCommands(): Promise<number> {
  let gone = 0;
  for (;;) {
    const { rowCount } = await inTransaction((tx) =>
      tx.execute(sql`
      delete from command where id in (
        select id from command where at < now() - make_interval(days => ${KEPT_DAYS}) limit ${AT_A_TIME} for update skip locked)`),
    );
    gone += rowCount ?? 0;
    if ((rowCount ?? 0) < AT_A_TIME) return gone;
  }
}

async function forgetAll(): Promise<void> {
  for (const id of await workshopIds(database()))
    await inWorkshop(id, async () => {
      await forgetCommands();
      await inTransaction((tx) => tx.delete(session).where(not(lives()!)));
    });
}

const DAY = 86_400_000;

/** Once a day, as long as the process runs; each process at an hour of its own. */
export function forgetDaily(): void {
  const forget = () =>
    void forgetAll().catch((error: unknown) =>
      log.warn(traceOf(error), "what is of no use any more was not forgotten"),
    );
  setInterval(forget, DAY * (0.9 + 0.2 * Math.random())).unref();
}

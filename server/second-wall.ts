import { sql } from "drizzle-orm";
import { database } from "./database";
import { log } from "./log";

/** Says at the start where the wall between workshops does not stand before this process: it serves as whoever owns the tables. */
export async function sayWithoutWall(): Promise<void> {
  const { rows } = await database()
    .execute<{ stands: boolean }>(sql`select row_security_active('workshop') as stands`)
    // No database yet: it is said by whoever needs it.
    .catch(() => ({ rows: [] }));
  if (rows[0]?.stands === false)
    log.warn("no second wall between workshops: APP_DATABASE_URL names no role of its own (docs/running.md)");
}

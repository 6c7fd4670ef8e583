import { sql } from "drizzle-orm";
import type { Database } from "../client";

/** The ways through the wall for those whose workshop is not known yet: whoever holds a secret is told whose it is, and nothing else. */

type Asks = Pick<Database, "execute">;

/** What is held: hashes of tokens, an email address, or the name a device knows its passkey by. */
export type Door = "session" | "email" | "passkey" | "device" | "link" | "tablet" | "owner" | "program" | "calendar";

/** @returns the workshop’s id; null where nothing is behind it */
export async function workshopBehind(db: Asks, door: Door, held: string): Promise<string | null> {
  const { rows } = await db.execute<{ id: string | null }>(sql`select workshop_behind(${door}, ${held}) as id`);
  return rows[0]!.id;
}

/** All workshops of the database, by id: for work that is done for each of them, one after the other. */
export async function workshopIds(db: Asks): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`select id from workshop_ids() as id order by id`);
  return rows.map((r) => r.id);
}

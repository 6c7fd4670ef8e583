import pg from "pg";
import { begin } from "../../db/wall";

/** Longest that anything is taken out, ms: a stuck reader holds old rows for ever else. */
const LONGEST = 2 * 3_600_000;

/**
 * Runs work on a connection of its own that sees the workshop as it is now, however long it takes and whatever is written meanwhile. It only
 * reads. Inside a workshop (`db/wall.ts`).
 */
export async function atOneMoment<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL, options: "-c jit=off" });
  // Without a listener a connection that dies would end the process; who uses it hears of it.
  client.on("error", () => {});
  await client.connect();
  try {
    await client.query(begin("isolation level repeatable read, read only"));
    await client.query(`set local time zone 'UTC'; set local statement_timeout = ${LONGEST}`);
    const result = await work(client);
    await client.query("commit");
    return result;
  } finally {
    // Also in the middle of a copy.
    await client.end().catch(() => {});
  }
}

import { sql } from "drizzle-orm";
import { database } from "~server/database";
import { isDatabaseDown } from "~server/database-error";

/** Whether the records answer: asked before a page looks again by itself, so that an outage never takes away what is on the screen. */
export async function loader() {
  try {
    await database().execute(sql`select 1`);
    return new Response(null, { status: 204 });
  } catch (error) {
    if (!isDatabaseDown(error)) throw error;
    return new Response(null, { status: 503 });
  }
}

import { and, desc, eq, sql } from "drizzle-orm";
import { account, shotTrace } from "../schema";
import type { Queries } from "./jobs";

/** Traces of loggers, as they stand. */

/** Traces of a job looked through. Our choice: more than anybody logs in a visit. */
const MOST = 60;

const stands = sql`not exists (select 1 from ${shotTrace} later where later.workshop_id = ${shotTrace.workshopId} and later.supersedes = ${shotTrace.id})`;

/** Newest first, without what they logged. */
export function tracesOf(db: Queries, workshopId: string, jobId: string) {
  return db
    .select({
      id: shotTrace.id,
      shotId: shotTrace.shotId,
      file: shotTrace.file,
      at: shotTrace.at,
      by: account.name,
    })
    .from(shotTrace)
    .innerJoin(account, and(eq(account.workshopId, shotTrace.workshopId), eq(account.id, shotTrace.by)))
    .where(and(eq(shotTrace.workshopId, workshopId), eq(shotTrace.jobId, jobId), stands))
    .orderBy(desc(shotTrace.at), desc(shotTrace.id))
    .limit(MOST);
}

/** What one of them logged; null where the job has no such one. */
export async function traceBehind(db: Queries, workshopId: string, jobId: string, id: string) {
  const [row] = await db
    .select({ trace: shotTrace.trace })
    .from(shotTrace)
    .where(and(eq(shotTrace.workshopId, workshopId), eq(shotTrace.jobId, jobId), eq(shotTrace.id, id)));
  return row?.trace ?? null;
}

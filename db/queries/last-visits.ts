import { and, desc, eq } from "drizzle-orm";
import { job } from "../schema";
import type { Queries } from "./jobs";

/** The newest visits to a machine, to look through for something: as many as are worth it, not all there ever were. */
export function lastVisits(db: Queries, workshopId: string, machineId: string, limit: number) {
  return db
    .select({ id: job.id })
    .from(job)
    .where(and(eq(job.workshopId, workshopId), eq(job.machineId, machineId)))
    .orderBy(desc(job.startedAt))
    .limit(limit);
}

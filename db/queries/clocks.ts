import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { job, machine, site, timer } from "../schema";
import type { Queries } from "./jobs";
import { onceEach } from "./prepared";

/** Clocks that run in a workshop's open jobs, soonest first. */
export function openClocks(db: Queries, workshopId: string) {
  return preparedClocks(db).execute({ workshopId });
}

const preparedClocks = onceEach((db: Queries) =>
  db
    .select({ id: timer.id, jobId: job.id, label: timer.label, dueAt: timer.dueAt, site: site.name })
    .from(timer)
    .innerJoin(job, and(eq(job.workshopId, timer.workshopId), eq(job.id, timer.jobId)))
    .innerJoin(machine, eq(machine.id, job.machineId))
    .innerJoin(site, eq(site.id, machine.siteId))
    .where(and(eq(timer.workshopId, sql.placeholder("workshopId")), eq(job.state, "open"), isNull(timer.endedAt)))
    .orderBy(asc(timer.dueAt))
    .limit(100)
    .prepare("open_clocks"),
);

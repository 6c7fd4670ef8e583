import { and, desc, eq, ne, sql } from "drizzle-orm";
import type { Database } from "../client";
import { job, signature } from "../schema";

/**
 * The queries of the hottest pages are prepared: planning them takes longer than running them, and a name keeps the plan
 * with each connection.
 */
const param = sql.placeholder;
export type Queries = Pick<Database, "query" | "select">;

export type SheetRow = NonNullable<Awaited<ReturnType<typeof sheetRow>>>;

/** Everything a sheet shows of one job, in one statement. Undefined when it isn't this workshop's. */
export function sheetRow(db: Queries, workshopId: string, jobId: string) {
  return sheetQuery(db).prepare("sheet").execute({ workshopId, jobId });
}

export function sheetQuery(db: Queries) {
  return db.query.job.findFirst({
    where: and(eq(job.id, param("jobId")), eq(job.workshopId, param("workshopId"))),
    with: {
      starter: { columns: { name: true } },
      machine: { with: { model: true, site: { with: { owner: { columns: { name: true } } } }, instruments: true } },
      notes: { with: { author: { columns: { name: true } } } },
      photos: { columns: { data: false } },
      ticks: { columns: { key: true } },
      readings: {
        columns: { budget: false },
        with: { instrument: true, reader: { columns: { name: true } } },
        orderBy: (r, { asc }) => [asc(r.sequence), asc(r.at)],
      },
      adjustments: {
        with: { turner: { columns: { name: true } } },
        orderBy: (a, { asc }) => [asc(a.sequence), asc(a.at)],
      },
      findings: true,
      links: true,
      signature: true,
    },
  });
}

/** The last signed visits to a machine, newest first, as they were signed. */
export function visitsOf(db: Queries, machineId: string, exceptJobId: string, limit: number) {
  return visitsQuery(db).prepare("visits").execute({ machineId, exceptJobId, limit });
}

export function visitsQuery(db: Queries) {
  return db
    .select({ jobId: job.id, signedAt: job.signedAt, document: signature.document })
    .from(job)
    .innerJoin(signature, eq(signature.jobId, job.id))
    .where(and(eq(job.machineId, param("machineId")), eq(job.state, "signed"), ne(job.id, param("exceptJobId"))))
    .orderBy(desc(job.startedAt))
    .limit(param("limit"));
}

/** Open jobs of a workshop with what the bench needs to tell where each stands. */
export function openJobs(db: Queries, workshopId: string) {
  return openJobsQuery(db).prepare("open_jobs").execute({ workshopId });
}

export function openJobsQuery(db: Queries) {
  return db.query.job.findMany({
    where: and(eq(job.workshopId, param("workshopId")), eq(job.state, "open")),
    orderBy: (j, { asc }) => [asc(j.startedAt)],
    limit: 60,
    with: {
      machine: {
        columns: { id: true, serial: true, gaugeToGroup: true, gaugeToGroupU: true },
        with: { model: true, site: { columns: { name: true, town: true } } },
      },
      notes: { columns: { station: true } },
      ticks: { columns: { key: true } },
      readings: {
        with: { instrument: true },
        columns: { budget: false },
        orderBy: (r, { asc }) => [asc(r.sequence), asc(r.at)],
      },
      adjustments: { orderBy: (a, { asc }) => [asc(a.sequence), asc(a.at)] },
      findings: { columns: { id: true } },
    },
  });
}

import { and, desc, eq, ne } from "drizzle-orm";
import type { Database } from "../client";
import { job, signature } from "../schema";

export type SheetRow = NonNullable<Awaited<ReturnType<typeof sheetRow>>>;

/** Everything a sheet shows of one job, in one statement. Undefined when it isn't this workshop's. */
export function sheetRow(db: Database, workshopId: string, jobId: string) {
  return sheetQuery(db, workshopId, jobId);
}

export function sheetQuery(db: Pick<Database, "query">, workshopId: string, jobId: string) {
  return db.query.job.findFirst({
    where: and(eq(job.id, jobId), eq(job.workshopId, workshopId)),
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
export function visitsOf(db: Database, machineId: string, exceptJobId: string, limit: number) {
  return db
    .select({ jobId: job.id, signedAt: job.signedAt, document: signature.document })
    .from(job)
    .innerJoin(signature, eq(signature.jobId, job.id))
    .where(and(eq(job.machineId, machineId), eq(job.state, "signed"), ne(job.id, exceptJobId)))
    .orderBy(desc(job.startedAt))
    .limit(limit);
}

/** Open jobs of a workshop with what the bench needs to tell where each stands. */
export function openJobs(db: Database, workshopId: string) {
  return db.query.job.findMany({
    where: and(eq(job.workshopId, workshopId), eq(job.state, "open")),
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

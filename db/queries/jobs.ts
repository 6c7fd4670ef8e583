import { and, asc, desc, eq, ne, sql } from "drizzle-orm";
import type { Database } from "../client";
import { job, machine, model, signature, site } from "../schema";
import { onceEach } from "./prepared";

// The queries of the hottest pages are prepared by name: each connection keeps the plan.
const param = sql.placeholder;
export type Queries = Pick<Database, "query" | "select" | "selectDistinctOn">;

export type SheetRow = NonNullable<Awaited<ReturnType<typeof sheetRow>>>;

const NAME = { columns: { name: true } } as const;

/** All of a job: what the domain’s job is made from. */
const WHOLE = {
  starter: NAME,
  machine: { with: { model: true, site: { with: { owner: NAME } }, instruments: true } },
  notes: { with: { author: NAME } },
  photos: { columns: { data: false } },
  ticks: { columns: { key: true } },
  entries: { with: { author: NAME }, orderBy: (e, { asc }) => [asc(e.at), asc(e.id)] },
  timers: { with: { starter: NAME, ender: NAME }, orderBy: (t, { asc }) => [asc(t.at)] },
  spec: { with: { card: NAME } },
  readings: {
    columns: { budget: false },
    with: { instrument: true, reader: NAME },
    orderBy: (r, { asc }) => [asc(r.sequence), asc(r.at)],
  },
  adjustments: { with: { turner: NAME }, orderBy: (a, { asc }) => [asc(a.sequence), asc(a.at)] },
  repairs: { with: { mender: NAME }, orderBy: (r, { asc }) => [asc(r.sequence), asc(r.at)] },
  findings: { with: { finder: NAME }, orderBy: (f, { asc }) => [asc(f.at)] },
  shots: { with: { author: NAME }, orderBy: (s, { asc }) => [asc(s.sequence), asc(s.at)] },
  links: true,
  signature: true,
} as const satisfies With;

type With = NonNullable<NonNullable<Parameters<Queries["query"]["job"]["findFirst"]>[0]>["with"]>;

/** Everything a sheet shows of one job, in one statement. Undefined when it isn't this workshop's. */
export function sheetRow(db: Queries, workshopId: string, jobId: string) {
  return preparedSheet(db).execute({ workshopId, jobId });
}

export function sheetQuery(db: Queries) {
  return db.query.job.findFirst({
    where: and(eq(job.id, param("jobId")), eq(job.workshopId, param("workshopId"))),
    with: WHOLE,
  });
}

const preparedSheet = onceEach((db: Queries) => sheetQuery(db).prepare("sheet"));

/** The last signed visits to the machine of a job, newest first, as they were signed; that job itself left out. */
export function visitsBefore(db: Queries, jobId: string, limit: number) {
  return preparedVisits(db).execute({ jobId, limit });
}

export function visitsQuery(db: Queries) {
  const machineOfJob = db
    .select({ id: job.machineId })
    .from(job)
    .where(eq(job.id, param("jobId")));
  return db
    .select({ jobId: job.id, signedAt: job.signedAt, document: signature.document })
    .from(job)
    .innerJoin(signature, eq(signature.jobId, job.id))
    .where(and(eq(job.machineId, machineOfJob), eq(job.state, "signed"), ne(job.id, param("jobId"))))
    .orderBy(desc(job.startedAt))
    .limit(param("limit"));
}

const preparedVisits = onceEach((db: Queries) => visitsQuery(db).prepare("visits"));

/** Open jobs of a workshop, oldest first: what the bench shows of each without working anything out. */
export function openJobs(db: Queries, workshopId: string) {
  return preparedOpenJobs(db).execute({ workshopId });
}

export function openJobsQuery(db: Queries) {
  return db
    .select({
      id: job.id,
      revision: job.revision,
      maker: model.maker,
      model: model.name,
      site: site.name,
    })
    .from(job)
    .innerJoin(machine, eq(machine.id, job.machineId))
    .innerJoin(model, eq(model.id, machine.modelId))
    .innerJoin(site, eq(site.id, machine.siteId))
    .where(and(eq(job.workshopId, param("workshopId")), eq(job.state, "open")))
    .orderBy(asc(job.startedAt))
    .limit(60);
}

const preparedOpenJobs = onceEach((db: Queries) => openJobsQuery(db).prepare("open_jobs"));

/** These jobs, whole. */
export function sheetRows(db: Queries, jobIds: readonly string[]) {
  return preparedRows(db).execute({ jobIds });
}

const preparedRows = onceEach((db: Queries) =>
  db.query.job.findMany({ where: sql`${job.id} = any(${param("jobIds")})`, with: WHOLE }).prepare("sheets"),
);

import { and, desc, eq, sql } from "drizzle-orm";
import type { Database } from "../client";
import { job, machine, model, site } from "../schema";
import { LAST, type Mark } from "./mark";
import { onceEach } from "./prepared";

// The queries of the hottest pages are prepared by name: each connection keeps the plan.
const param = sql.placeholder;
export type Queries = Pick<Database, "query" | "select" | "selectDistinctOn">;

export type SheetRow = NonNullable<Awaited<ReturnType<typeof sheetRow>>>;

const NAME = { columns: { name: true } } as const;

/** All of a job: what the domain’s job is made from. */
const WHOLE = {
  workshop: { columns: { timeZone: true } },
  starter: NAME,
  machine: { with: { model: true, site: { with: { owner: NAME } }, instruments: true } },
  notes: { with: { author: NAME }, orderBy: (n, { asc }) => [asc(n.at), asc(n.id)] },
  photos: { columns: { data: false } },
  ticks: { columns: { id: true, key: true, at: true }, with: { author: NAME } },
  entries: { with: { author: NAME }, orderBy: (e, { asc }) => [asc(e.at), asc(e.id)] },
  entryInstruments: { columns: { entryId: true, column: true }, with: { instrument: true } },
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
  shots: { with: { author: NAME, weighedOn: true }, orderBy: (s, { asc }) => [asc(s.sequence), asc(s.at)] },
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

/** Open jobs of a workshop, newest first, a page of them: what the bench shows of each without working anything out. */
export function openJobs(db: Queries, workshopId: string, after: Mark | null, limit: number) {
  const { at, id } = after ?? LAST;
  return preparedOpenJobs(db).execute({ workshopId, at, after: id, limit });
}

export function openJobsQuery(db: Queries) {
  return db
    .select({
      id: job.id,
      startedAt: job.startedAt,
      revision: job.revision,
      maker: model.maker,
      model: model.name,
      site: site.name,
    })
    .from(job)
    .innerJoin(machine, and(eq(machine.workshopId, job.workshopId), eq(machine.id, job.machineId)))
    .innerJoin(model, and(eq(model.workshopId, job.workshopId), eq(model.id, machine.modelId)))
    .innerJoin(site, and(eq(site.workshopId, job.workshopId), eq(site.id, machine.siteId)))
    .where(
      and(
        eq(job.workshopId, param("workshopId")),
        eq(job.state, "open"),
        sql`(${job.startedAt}, ${job.id}) < (${param("at")}::timestamptz, ${param("after")}::uuid)`,
      ),
    )
    .orderBy(desc(job.startedAt), desc(job.id))
    .limit(param("limit"));
}

const preparedOpenJobs = onceEach((db: Queries) => openJobsQuery(db).prepare("open_jobs"));

/** How many jobs are open in a workshop, counted no further than is worth saying. */
export async function countOpen(db: Queries, workshopId: string, most: number): Promise<number> {
  const [row] = await preparedCount(db).execute({ workshopId, most });
  return row?.open ?? 0;
}

const preparedCount = onceEach((db: Queries) => {
  const open = db
    .select({ id: job.id })
    .from(job)
    .where(and(eq(job.workshopId, param("workshopId")), eq(job.state, "open")))
    .limit(param("most"))
    .as("open");
  return db
    .select({ open: sql<number>`count(*)::int` })
    .from(open)
    .prepare("count_open");
});

/** These jobs of a workshop, whole. */
export function sheetRows(db: Queries, workshopId: string, jobIds: readonly string[]) {
  return preparedRows(db).execute({ workshopId, jobIds });
}

const preparedRows = onceEach((db: Queries) =>
  db.query.job
    .findMany({
      where: and(eq(job.workshopId, param("workshopId")), sql`${job.id} = any(${param("jobIds")})`),
      with: WHOLE,
    })
    .prepare("sheets"),
);

import { and, asc, desc, eq, inArray, ne, sql } from "drizzle-orm";
import type { Database } from "../client";
import { job, result, signature } from "../schema";
import type { Queries } from "./jobs";
import { onceEach } from "./prepared";

/** What signed jobs came to. */

const param = sql.placeholder;

export type ResultRow = Awaited<ReturnType<typeof resultsBefore>>[number];

/** Results of the last signed visits to the machine of a job, newest visit first; that job itself left out. */
export function resultsBefore(db: Queries, given: { workshopId: string; jobId: string; visits: number }) {
  return preparedResults(db).execute(given);
}

export function resultsQuery(db: Queries) {
  const machineOfJob = db
    .select({ id: job.machineId })
    .from(job)
    .where(and(eq(job.workshopId, param("workshopId")), eq(job.id, param("jobId"))));
  const last = db
    .select({ id: job.id })
    .from(job)
    .where(
      and(
        eq(job.workshopId, param("workshopId")),
        eq(job.machineId, machineOfJob),
        eq(job.state, "signed"),
        ne(job.id, param("jobId")),
      ),
    )
    .orderBy(desc(job.startedAt))
    .limit(param("visits"));
  return picked(db)
    .where(and(eq(result.workshopId, param("workshopId")), inArray(result.jobId, last)))
    .orderBy(desc(result.at), asc(result.phase));
}

const picked = (db: Queries) =>
  db
    .select({
      jobId: result.jobId,
      at: result.at,
      knob: result.knob,
      group: result.group,
      button: result.button,
      phase: result.phase,
      dimension: result.dimension,
      value: result.value,
      u: result.u,
      U: result.expanded,
      resolution: result.resolution,
      verdict: result.verdict,
      lower: result.lower,
      upper: result.upper,
    })
    .from(result);

/** Results of these visits, newest first. */
export function resultsOfJobs(db: Queries, workshopId: string, jobIds: readonly string[]) {
  return preparedOfJobs(db).execute({ workshopId, jobIds });
}

const preparedOfJobs = onceEach((db: Queries) =>
  picked(db)
    .where(and(eq(result.workshopId, param("workshopId")), sql`${result.jobId} = any(${param("jobIds")})`))
    .orderBy(desc(result.at), asc(result.phase))
    .prepare("results_of_jobs"),
);

/** Results of all the last signed visits to a machine. */
export function resultsOfMachine(db: Queries, given: { workshopId: string; machineId: string; visits: number }) {
  return preparedOfMachine(db).execute(given);
}

export function machineResultsQuery(db: Queries) {
  const last = db
    .select({ id: job.id })
    .from(job)
    .where(and(eq(job.workshopId, param("workshopId")), eq(job.machineId, param("machineId")), eq(job.state, "signed")))
    .orderBy(desc(job.startedAt))
    .limit(param("visits"));
  return picked(db)
    .where(and(eq(result.workshopId, param("workshopId")), inArray(result.jobId, last)))
    .orderBy(desc(result.at), asc(result.phase));
}

const preparedOfMachine = onceEach((db: Queries) => machineResultsQuery(db).prepare("results_of_machine"));

const preparedResults = onceEach((db: Queries) => resultsQuery(db).prepare("results_before"));

/** Signatures of versions that kept no results beside them. */
export function earlierSignatures(db: Database, limit: number) {
  return db
    .select({ jobId: signature.jobId, workshopId: signature.workshopId })
    .from(signature)
    .where(eq(signature.kept, false))
    .limit(limit);
}

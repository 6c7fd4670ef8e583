import { and, asc, desc, eq, sql } from "drizzle-orm";
import { type Particulars, particularsOf } from "../../core/job";
import { describedFrom } from "./job-from";
import type { Queries } from "./jobs";
import { onceEach } from "./prepared";
import { instrument, job, machine, signature } from "../schema";

const param = sql.placeholder;

/** One machine with its model, site and owner. Undefined when it isn't this workshop's. */
export function machineRow(db: Queries, workshopId: string, machineId: string) {
  return preparedMachine(db).execute({ workshopId, machineId });
}

export function machineQuery(db: Queries) {
  return db.query.machine.findFirst({
    where: and(eq(machine.id, param("machineId")), eq(machine.workshopId, param("workshopId"))),
    with: { model: true, site: { with: { owner: { columns: { name: true, contact: true } } } } },
  });
}

const preparedMachine = onceEach((db: Queries) => machineQuery(db).prepare("machine"));

/** All of a machine that decides its sheet, as library and register say today. @throws RangeError when it isn’t this workshop’s */
export async function particularsNow(db: Queries, workshopId: string, machineId: string): Promise<Particulars> {
  const row = await machineRow(db, workshopId, machineId);
  if (!row) throw new RangeError("There is no such machine in this workshop.");
  return particularsOf(describedFrom(row));
}

/** Jobs of a machine, newest first, with what a list says of those that were signed. */
export function jobsOf(db: Queries, workshopId: string, machineId: string, limit: number) {
  return preparedJobs(db).execute({ workshopId, machineId, limit });
}

export function jobsQuery(db: Queries) {
  return db
    .select({
      id: job.id,
      state: job.state,
      complaint: job.complaint,
      startedAt: job.startedAt,
      scopes: job.scopes,
      particulars: job.particulars,
      signedAt: job.signedAt,
      finding: signature.finding,
      skipped: signature.skipped,
    })
    .from(job)
    .leftJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .where(and(eq(job.workshopId, param("workshopId")), eq(job.machineId, param("machineId"))))
    .orderBy(desc(job.startedAt))
    .limit(param("limit"));
}

const preparedJobs = onceEach((db: Queries) => jobsQuery(db).prepare("jobs_of"));

/** Instruments a workshop has in use: never more. */
export const KIT = 300;

/** Gauges in the workshop's kit, those it reaches for first on top. */
export function kitOf(db: Queries, workshopId: string) {
  return preparedKit(db).execute({ workshopId });
}

export function kitQuery(db: Queries) {
  return db
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, param("workshopId")), sql`in_kit`))
    .orderBy(asc(instrument.position), asc(instrument.id))
    .limit(KIT);
}

const preparedKit = onceEach((db: Queries) => kitQuery(db).prepare("kit"));

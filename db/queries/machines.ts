import { and, asc, desc, eq, inArray, sql } from "drizzle-orm";
import { type NextService, type Particulars, particularsOf } from "../../core/job";
import { describedFrom } from "./job-from";
import type { Queries } from "./jobs";
import { LAST, type Mark } from "./mark";
import { onceEach } from "./prepared";
import { instrument, job, machine, machineChange, signature } from "../schema";

const param = sql.placeholder;

/** One machine with its model, site and owner. Undefined when it isn't this workshop's. */
export function machineRow(db: Queries, workshopId: string, machineId: string) {
  return preparedMachine(db).execute({ workshopId, machineId });
}

export function machineQuery(db: Queries) {
  return db.query.machine.findFirst({
    where: and(eq(machine.id, param("machineId")), eq(machine.workshopId, param("workshopId"))),
    with: {
      model: true,
      site: { with: { owner: { columns: { id: true, name: true, phone: true, email: true, contact: true } } } },
    },
  });
}

const preparedMachine = onceEach((db: Queries) => machineQuery(db).prepare("machine"));

/** All of a machine that decides its sheet, as library and register say today. @throws RangeError when it isn’t this workshop’s */
export async function particularsNow(db: Queries, workshopId: string, machineId: string): Promise<Particulars> {
  const row = await machineRow(db, workshopId, machineId);
  if (!row) throw new RangeError("There is no such machine in this workshop.");
  return particularsOf(describedFrom(row));
}

/** What a list says of a job. */
const BRIEF = {
  id: job.id,
  complaint: job.complaint,
  startedAt: job.startedAt,
  scopes: job.scopes,
  particulars: job.particulars,
};

/** The open job of a machine, if there is one. */
export async function openJobOf(db: Queries, workshopId: string, machineId: string) {
  const [open] = await preparedOpen(db).execute({ workshopId, machineId });
  return open ?? null;
}

const preparedOpen = onceEach((db: Queries) =>
  db
    .select(BRIEF)
    .from(job)
    .where(and(eq(job.workshopId, param("workshopId")), eq(job.machineId, param("machineId")), sql`state = 'open'`))
    .prepare("open_job_of"),
);

/** Signed visits to a machine, newest first, a page of them, with what a list says of each. */
export function visitsOf(
  db: Queries,
  {
    workshopId,
    machineId,
    before,
    limit,
  }: { workshopId: string; machineId: string; before: Mark | null; limit: number },
) {
  const { at, id } = before ?? LAST;
  return preparedJobs(db).execute({ workshopId, machineId, at, before: id, limit });
}

export function jobsQuery(db: Queries) {
  return db
    .select({
      ...BRIEF,
      signedAt: signature.at,
      finding: signature.finding,
      skipped: signature.skipped,
      work: sql<{ said: string }[] | null>`${signature.document} -> 'work'`,
      left: sql<{ said: string; since: string }[] | null>`${signature.document} -> 'left'`,
      shots: sql<number>`json_array_length(coalesce(${signature.document} -> 'shots', '[]'))::int`,
      taken: sql<
        string | null
      >`jsonb_path_query_first((${signature.document} -> 'shots')::jsonb, '$[*] ? (@.taken == true).said') #>> '{}'`,
    })
    .from(job)
    .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .where(
      and(
        eq(job.workshopId, param("workshopId")),
        eq(job.machineId, param("machineId")),
        sql`(${job.startedAt}, ${job.id}) < (${param("at")}::timestamptz, ${param("before")}::uuid)`,
      ),
    )
    .orderBy(desc(job.startedAt), desc(job.id))
    .limit(param("limit"));
}

const preparedJobs = onceEach((db: Queries) => jobsQuery(db).prepare("jobs_of"));

/** When a machine is serviced next, as its newest service said; null while none did. */
export async function nextServiceOf(db: Queries, workshopId: string, machineId: string): Promise<NextService | null> {
  const [row] = await preparedService(db).execute({ workshopId, machineId });
  return row?.due ?? null;
}

const preparedService = onceEach((db: Queries) => {
  const due = sql<NextService | null>`${signature.document} -> 'nextService'`;
  return db
    .select({ due })
    .from(job)
    .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .where(and(eq(job.workshopId, param("workshopId")), eq(job.machineId, param("machineId")), sql`${due} is not null`))
    .orderBy(desc(job.startedAt), desc(job.id))
    .limit(1)
    .prepare("next_service");
});

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

/** The brew gauge built into a machine, as it reads now. */
export async function ownGaugeOf(db: Queries, workshopId: string, machineId: string) {
  const [own] = await db
    .select()
    .from(instrument)
    .where(
      and(
        eq(instrument.workshopId, workshopId),
        eq(instrument.machineId, machineId),
        inArray(instrument.place, ["group", "pump", "flow"]),
      ),
    )
    .orderBy(desc(instrument.position))
    .limit(1);
  return own ?? null;
}

/** What was changed on a machine, newest first, some of it. */
export function changesOf(db: Queries, workshopId: string, machineId: string, limit: number) {
  return db
    .select()
    .from(machineChange)
    .where(and(eq(machineChange.workshopId, workshopId), eq(machineChange.machineId, machineId)))
    .orderBy(desc(machineChange.doneOn), desc(machineChange.at))
    .limit(limit);
}

/** Jobs on a machine that were withdrawn, newest first, some of them. */
export function withdrawnOf(db: Queries, workshopId: string, machineId: string, limit: number) {
  return db
    .select({ id: job.id, startedAt: job.startedAt })
    .from(job)
    .where(and(eq(job.workshopId, workshopId), eq(job.machineId, machineId), eq(job.state, "withdrawn")))
    .orderBy(desc(job.startedAt))
    .limit(limit);
}

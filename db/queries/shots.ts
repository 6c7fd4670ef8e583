import { and, desc, eq, inArray, ne, sql } from "drizzle-orm";
import type { ShotClock } from "../../core/shot";
import { account, job, programme, shot, shotTap } from "../schema";
import type { Queries } from "./jobs";
import { lastVisits } from "./last-visits";
import { onceEach } from "./prepared";

const param = sql.placeholder;

/** The clock of a job’s shot in hand; null when none was started, or the last was cleared or recorded. */
export async function tapsOf(
  db: Queries,
  workshopId: string,
  jobId: string,
): Promise<{ clockId: string; clock: ShotClock; by: string } | null> {
  const taps = await preparedTaps(db).execute({ workshopId, jobId });
  const [first] = taps;
  if (!first || first.recorded || taps.some((t) => t.what === "cleared")) return null;
  const clock: ShotClock = Object.fromEntries(taps.map((t) => [t.what, t.moment.getTime()]));
  return { clockId: first.clockId, clock, by: taps.find((t) => t.what === "pump")?.by ?? first.by };
}

const preparedTaps = onceEach((db: Queries) => {
  const newest = db
    .select({ clockId: shotTap.clockId })
    .from(shotTap)
    .where(and(eq(shotTap.workshopId, param("workshopId")), eq(shotTap.jobId, param("jobId"))))
    .orderBy(desc(shotTap.moment), desc(shotTap.at))
    .limit(1);
  return db
    .select({
      clockId: shotTap.clockId,
      what: shotTap.what,
      moment: shotTap.moment,
      by: account.name,
      recorded: sql<boolean>`exists (select 1 from ${shot} where ${shot.workshopId} = ${shotTap.workshopId} and ${shot.clockId} = ${shotTap.clockId})`,
    })
    .from(shotTap)
    .innerJoin(account, eq(account.id, shotTap.by))
    .where(
      and(
        eq(shotTap.workshopId, param("workshopId")),
        eq(shotTap.jobId, param("jobId")),
        sql`${shotTap.clockId} = (${newest})`,
      ),
    )
    .prepare("taps");
});

/** A shot that was not corrected since. */
const stands = sql`not exists (select 1 from ${shot} later where later.workshop_id = shot.workshop_id and later.supersedes = shot.id)`;

/** Shots of the last job before this one on the same machine, as they stand. */
export async function shotsBefore(db: Queries, workshopId: string, machineId: string, jobId: string) {
  const shots = await preparedBefore(db).execute({ workshopId, machineId, jobId });
  return shots[0] ? { at: shots[0].startedAt, shots } : null;
}

const preparedBefore = onceEach((db: Queries) => {
  const last = db
    .select({ id: job.id })
    .from(job)
    .where(
      and(
        eq(job.workshopId, param("workshopId")),
        eq(job.machineId, param("machineId")),
        ne(job.id, param("jobId")),
        sql`exists (select 1 from ${shot} where ${shot.workshopId} = ${job.workshopId} and ${shot.jobId} = ${job.id})`,
      ),
    )
    .orderBy(desc(job.startedAt))
    .limit(1);
  return db
    .select({ id: shot.id, sequence: shot.sequence, pull: shot.pull, startedAt: job.startedAt })
    .from(shot)
    .innerJoin(job, and(eq(job.workshopId, shot.workshopId), eq(job.id, shot.jobId)))
    .where(and(eq(shot.workshopId, param("workshopId")), eq(shot.jobId, last), stands))
    .orderBy(shot.sequence, shot.at)
    .prepare("shots_before");
});

/** The newest programme of each button of a machine. */
export function programmesOf(db: Queries, workshopId: string, machineId: string) {
  return preparedProgrammes(db).execute({ workshopId, machineId });
}

const preparedProgrammes = onceEach((db: Queries) =>
  db
    .selectDistinctOn([programme.group, programme.button])
    .from(programme)
    .where(and(eq(programme.workshopId, param("workshopId")), eq(programme.machineId, param("machineId"))))
    .orderBy(programme.group, programme.button, desc(programme.at))
    .prepare("programmes"),
);

/** The last shots of a machine, newest first, as they stand: of its last visits. */
export function lastShots(db: Queries, workshopId: string, machineId: string, limit: number) {
  const visits = lastVisits(db, workshopId, machineId, VISITS);
  return db
    .select({ pull: shot.pull, at: shot.at })
    .from(shot)
    .where(and(eq(shot.workshopId, workshopId), inArray(shot.jobId, visits), stands))
    .orderBy(desc(shot.at))
    .limit(limit);
}

/** Visits looked through for shots: not each has some. */
const VISITS = 30;

/** Shots that joined a job after its signature, as they stand. */
export function amendmentsOf(db: Queries, workshopId: string, jobId: string) {
  return db
    .select({ id: shot.id, pull: shot.pull, at: shot.at, reason: shot.reason })
    .from(shot)
    .where(and(eq(shot.workshopId, workshopId), eq(shot.jobId, jobId), eq(shot.amends, true), stands))
    .orderBy(shot.at)
    .limit(AMENDMENTS);
}

const AMENDMENTS = 100;

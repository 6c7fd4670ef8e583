import { sql } from "drizzle-orm";
import type { Database } from "../client";
import { FIRST, type Mark } from "./mark";

/** Visits in which something was read with an instrument, whatever it was: readings of knobs, figures and rows of tasks, shots weighed. */

export interface TouchedPage {
  /** Every row of the kit that stood for the thing, one after the other. */
  instrumentIds: readonly string[];
  since: Date;
  /** Where the page before ended. */
  after: Mark | null;
  limit: number;
}

export interface TouchedVisit extends Record<string, unknown> {
  jobId: string;
  startedAt: Date;
  machineId: string;
  machine: string;
  serial: string;
  site: string;
  town: string;
  owner: string;
  contact: string;
}

/** Jobs that used it: by the index of each kind of record that names an instrument. */
const used = (workshopId: string, ids: readonly string[]) => sql`
  select job_id from reading where workshop_id = ${workshopId} and instrument_id = any(${sql.param(ids)}::uuid[])
  union select job_id from entry_instrument where workshop_id = ${workshopId} and instrument_id = any(${sql.param(ids)}::uuid[])
  union select job_id from shot where workshop_id = ${workshopId} and scale_id = any(${sql.param(ids)}::uuid[])`;

/** A page of them, oldest first. */
export async function touchedVisits(db: Database, workshopId: string, page: TouchedPage): Promise<TouchedVisit[]> {
  const { instrumentIds, since, limit } = page;
  const { at, id } = page.after ?? FIRST;
  const { rows } = await db.execute<TouchedVisit>(sql`
    select j.id as "jobId", j.started_at as "startedAt", m.id as "machineId", concat_ws(' ', mo.maker, mo.name) as machine, m.serial,
      s.name as site, s.town, o.name as owner, o.contact
    from job j
    join machine m on m.workshop_id = j.workshop_id and m.id = j.machine_id
    join model mo on mo.workshop_id = m.workshop_id and mo.id = m.model_id
    join site s on s.workshop_id = m.workshop_id and s.id = m.site_id
    join owner o on o.workshop_id = s.workshop_id and o.id = s.owner_id
    where j.workshop_id = ${workshopId} and j.started_at >= ${since.toISOString()}
      and (j.started_at, j.id) > (${at.toISOString()}::timestamptz, ${id}::uuid)
      and j.id in (${used(workshopId, instrumentIds)})
    order by j.started_at, j.id limit ${limit}`);
  return rows.map((r) => ({ ...r, startedAt: new Date(r.startedAt) }));
}

/** How many visits, machines and owners in all. */
export async function countTouched(
  db: Database,
  workshopId: string,
  { instrumentIds, since }: Pick<TouchedPage, "instrumentIds" | "since">,
): Promise<{ visits: number; machines: number; owners: number }> {
  const { rows } = await db.execute<{ visits: number; machines: number; owners: number }>(sql`
    select count(*)::int as visits, count(distinct m.id)::int as machines, count(distinct s.owner_id)::int as owners
    from job j
    join machine m on m.workshop_id = j.workshop_id and m.id = j.machine_id
    join site s on s.workshop_id = m.workshop_id and s.id = m.site_id
    where j.workshop_id = ${workshopId} and j.started_at >= ${since.toISOString()}
      and j.id in (${used(workshopId, instrumentIds)})`);
  return rows[0]!;
}

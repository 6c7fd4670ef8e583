import { sql } from "drizzle-orm";
import { dayIn } from "../../core/day";
import { type Carried, SETTLED, carriedTask } from "../../core/sheet";
import { type FaultLeft, type WorkLine, sayFault, sayWork } from "../../core/work";
import type { Database } from "../client";

/** What stays in a machine: faults left in on earlier visits, and work put off, until a later visit says that it is settled. */

/** More than anybody asks about before touching a machine. */
const MOST = 12;

type Value = ({ form: "left" } & FaultLeft) | ({ form: "work" } & WorkLine);

/** @returns the newest first, at most twelve */
export async function carriedOf(
  db: Pick<Database, "execute">,
  workshopId: string,
  machineId: string,
): Promise<Carried[]> {
  const { rows } = await db.execute<{ id: string; value: Value; at: string; zone: string }>(sql`
    select e.id, e.value, j.started_at::text as at, w.time_zone as zone
    from job j
    join workshop w on w.id = j.workshop_id
    join entry e on e.workshop_id = j.workshop_id and e.job_id = j.id
    where j.workshop_id = ${workshopId} and j.machine_id = ${machineId} and j.state <> 'withdrawn'
      and (e.value->>'form' = 'left' or (e.value->>'form' = 'work' and e.value->>'outcome' in ('postponed', 'open')))
      and not exists (select from entry c where c.workshop_id = e.workshop_id and c.job_id = e.job_id and c.supersedes = e.id)
      and not exists (
        select from job k join entry s on s.workshop_id = k.workshop_id and s.job_id = k.id
        where k.workshop_id = j.workshop_id and k.machine_id = j.machine_id and k.state <> 'withdrawn'
          and s.task = ${carriedTask("")} || e.id
          and s.value->>'choice' in (${sql.join(
            SETTLED.map((s) => sql`${s}`),
            sql`, `,
          )})
          and not exists (select from entry c where c.workshop_id = s.workshop_id and c.job_id = s.job_id and c.supersedes = s.id))
    order by j.started_at desc, e.at desc
    limit ${MOST}`);
  return rows.map(({ id, value, at, zone }) => ({
    id,
    kind: value.form === "left" ? "fault" : "work",
    what: value.what.slice(0, 120),
    since: dayIn(zone, Date.parse(at)),
    said: value.form === "left" ? sayFault(value) : sayWork(value),
  }));
}

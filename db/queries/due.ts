import { sql } from "drizzle-orm";
import type { Database } from "../client";

interface Row extends Record<string, unknown> {
  machineId: string;
  name: string;
  serial: string;
  owner: string;
  phone: string;
  site: string;
  town: string;
  /** ISO day */
  on: string;
  why: string;
}

/** When each machine that is in service should be seen next, as its newest service said; soonest first. */
export async function dueServices(db: Pick<Database, "execute">, workshopId: string): Promise<Row[]> {
  const { rows } = await db.execute<Row>(sql`
    select m.id as "machineId", mo.maker || ' ' || mo.name as name, m.serial, o.name as owner, o.phone, si.name as site, si.town,
      due.next ->> 'on' as "on", coalesce(due.next ->> 'why', '') as why
    from machine m
    join model mo on mo.workshop_id = m.workshop_id and mo.id = m.model_id
    join site si on si.workshop_id = m.workshop_id and si.id = m.site_id
    join owner o on o.workshop_id = si.workshop_id and o.id = si.owner_id
    cross join lateral (
      select s.document -> 'nextService' as next from job j
      join signature s on s.workshop_id = j.workshop_id and s.job_id = j.id
      where j.workshop_id = m.workshop_id and j.machine_id = m.id and s.document ->> 'nextService' is not null
      order by j.started_at desc, j.id desc limit 1
    ) due
    where m.workshop_id = ${workshopId} and m.retired_on is null
    order by due.next ->> 'on', m.serial`);
  return rows;
}

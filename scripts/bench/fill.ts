import { sql } from "drizzle-orm";
import type { Database } from "../../db/client";

/** A large workshop inside the demo: machines × signed jobs with readings, moves, notes and signatures, and a few open ones. */
export async function fill(
  db: Database,
  machines: number,
  jobsEach: number,
): Promise<{ jobs: string[]; machines: string[] }> {
  const shop = sql`(select workshop_id from account where email = 'ilka@lowtide.example')`;
  const by = sql`(select id from account where email = 'ilka@lowtide.example')`;
  const gauge = sql`(select id from instrument where workshop_id = ${shop} and in_kit order by position limit 1)`;
  await db.transaction(async (tx) => {
    await tx.execute(
      sql`create temp table m on commit drop as select gen_random_uuid() id, n from generate_series(1, ${machines}::int) n`,
    );
    await tx.execute(sql`create temp table j on commit drop as
      select gen_random_uuid() id, m.id machine_id, v, now() - make_interval(days => v * 30 + 1, mins => m.n) as at from m, generate_series(1, ${jobsEach}::int) v`);
    await tx.execute(sql`insert into machine (id, workshop_id, model_id, site_id, serial, gauge_place)
      select m.id, ${shop}, (select id from model where kind = 'K7' and workshop_id = ${shop}), (select id from site where workshop_id = ${shop} order by name limit 1), 'L-' || n, 'none' from m`);
    await tx.execute(sql`insert into job (id, workshop_id, machine_id, type, complaint, opv_school, decision_rule, tolerance, started_by, started_at)
      select j.id, ${shop}, machine_id, 'service', 'Yearly service.', 'regulate', 'guarded', '{"lower":8.5,"target":9,"upper":9.5}', ${by}, at from j`);
    await tx.execute(
      sql`insert into note (id, job_id, by, at, station, text) select gen_random_uuid(), j.id, ${by}, at, 'look-over', 'No damage seen.' from j`,
    );
    await tx.execute(
      sql`insert into tick (id, job_id, by, at, key) select gen_random_uuid(), j.id, ${by}, at, k from j, unnest(array['tools', 'covers', 'refit']) k`,
    );
    await tx.execute(sql`insert into reading (id, job_id, by, at, sequence, quantity, instrument_id, place, to_group, to_group_u, typed, unit, indicated, value, u, u_common, budget)
      select gen_random_uuid(), j.id, ${by}, at, s, 'brew-pressure', ${gauge}, 'group', 0, 0, 'x', 'bar', p, p, 0.1, 0.04, '[]' from j, (values (1, 8.1), (2, 8.2), (4, 9.0), (5, 9.1)) r(s, p)`);
    await tx.execute(
      sql`insert into adjustment (id, job_id, by, at, sequence, knob, turns, typed) select gen_random_uuid(), j.id, ${by}, at, 3, 'opv', 0.375, '3/8' from j`,
    );
    // All but the newest job of every hundredth machine are signed, with the document of a demo job.
    await tx.execute(sql`insert into signature (id, job_id, by, at, name, document, hash)
      select gen_random_uuid(), j.id, ${by}, at, 'Bench', (select document from signature limit 1), repeat('0', 64) from j join m on m.id = j.machine_id where not (v = 1 and n % 100 = 0)`);
    await tx.execute(
      sql`update job set state = 'signed', signed_at = started_at where exists (select 1 from signature s where s.job_id = job.id) and state = 'open'`,
    );
  });
  await db.execute(sql`analyze`);
  const ids = async (query: ReturnType<typeof sql>) => (await db.execute<{ id: string }>(query)).rows.map((r) => r.id);
  return {
    jobs: await ids(
      sql`select id from job where state = 'signed' and workshop_id = ${shop} order by random() limit 200`,
    ),
    machines: await ids(sql`select id from machine where serial like 'L-%' order by random() limit 200`),
  };
}

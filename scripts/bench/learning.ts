import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { machine, model } from "../../db/schema";
import { atOf } from "../../core/knobs";
import { learnFrom, modelNow, relearnAll } from "../../server/jobs/commands/learning";
import { load, ms, table } from "./measure";

/** Model priors over 10,000 machines with twenty jobs each: rebuilt from nothing, and kept up by one more signature. */

const MACHINES = 10_000;
const JOBS = 20;
const db = connect(process.env.DATABASE_URL!);

// Copies of the demo's machines, so that the models are the demo's.
await db.execute(
  sql.raw(`INSERT INTO machine SELECT (jsonb_populate_record(NULL::machine, to_jsonb(r) || jsonb_build_object('id', gen_random_uuid(), 'serial', 'LEARN-' || n || '-' || r.serial))).*
    FROM (SELECT m.*, row_number() over (order by m.id) AS k, count(*) over () AS of FROM machine m JOIN model ON model.id = m.model_id
      WHERE model.kind IN ('K4', 'K5', 'K7', 'K11') AND m.serial NOT LIKE 'LEARN-%' AND m.serial NOT LIKE 'LOAD-%') AS r,
    generate_series(1, ${MACHINES}) AS n WHERE n % r.of = r.k - 1`),
);
// What is learnt is measured here, not jobs: this database is thrown away.
await db.execute(sql`ALTER TABLE response DROP CONSTRAINT response_of_job`);
await db.execute(
  sql.raw(`INSERT INTO response (workshop_id, job_id, knob, machine_id, model_id, value, sd, moves, at)
    SELECT m.workshop_id, gen_random_uuid(), 'opv', m.id, m.model_id, greatest(0.3, 2.2 + 0.3 * sin(extract(epoch from now()) + hashtext(m.serial)) + 0.2 * (random() + random() - 1)),
      0.15 + 0.2 * random(), 1, now() - make_interval(days => 18 * j)
    FROM machine m, generate_series(1, ${JOBS}) AS j WHERE m.serial LIKE 'LEARN-%'`),
);
await db.execute(sql`ANALYZE response`);

const rebuild = await load(async () => void (await relearnAll(db, new Date())), 1, 5);
const bare = await load(
  async () =>
    void (await db.execute(
      sql`SELECT machine_id, knob, group_no, button, (array_agg(model_id))[1], sum(1 / (sd * sd)), sum(value / (sd * sd)), count(*), max(at) FROM response GROUP BY machine_id, knob, group_no, button`,
    )),
  1,
  5,
);
const [one] = await db
  .select({ id: machine.id, workshopId: machine.workshopId, modelId: machine.modelId })
  .from(machine)
  .where(sql`${machine.serial} LIKE 'LEARN-%'`);
const [of] = await db.select().from(model).where(eq(model.id, one!.modelId));
const signature = await load(
  async (turn) =>
    db.transaction((tx) =>
      learnFrom(tx, modelNow(of!), {
        workshopId: one!.workshopId,
        jobId: randomUUID(),
        ...atOf("opv")!,
        machineId: one!.id,
        value: 2.2 + 0.01 * (turn % 7),
        sd: 0.2,
        moves: 1,
        at: new Date(),
      }),
    ),
  1,
  100,
);
const rows = [
  ["what", "p50 ms", "p95 ms"],
  [`all priors anew, ${MACHINES} machines × ${JOBS} jobs`, ms(rebuild.p50), ms(rebuild.p95)],
  ["the bare SQL sum alone", ms(bare.p50), ms(bare.p95)],
  ["one more signature, its model anew", ms(signature.p50), ms(signature.p95)],
];
console.log(`\nLearning\n${table(rows)}`);
await poolOf(db).end();

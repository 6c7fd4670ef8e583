import { desc, eq, sql } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { machine, model, response } from "../../db/schema";
import { learntFor } from "../../server/jobs/commands/learning";
import { load, ms, table } from "./measure";

/** What a job begins with where 10,000 machines with twenty jobs each have taught: beside the bare rows it is worked out from. */

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

const [one] = await db
  .select({ id: machine.id, modelId: machine.modelId })
  .from(machine)
  .where(sql`${machine.serial} LIKE 'LEARN-%'`);
const [of] = await db.select().from(model).where(eq(model.id, one!.modelId));
const learn = await load(async () => void (await learntFor(db, { id: one!.id, model: of! })), 1, 20);
const bare = await load(
  async () =>
    void (await db.select().from(response).where(eq(response.modelId, of!.id)).orderBy(desc(response.at)).limit(4000)),
  1,
  20,
);
const rows = [
  ["what", "p50 ms", "p95 ms"],
  [`what a job begins with, of ${MACHINES} machines × ${JOBS} jobs`, ms(learn.p50), ms(learn.p95)],
  ["the bare rows it is worked out from", ms(bare.p50), ms(bare.p95)],
];
console.log(`\nLearning\n${table(rows)}`);
await poolOf(db).end();

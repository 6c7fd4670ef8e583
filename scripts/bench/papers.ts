import { randomUUID } from "node:crypto";
import { sql } from "drizzle-orm";
import { standingOf } from "../../core/job";
import { isDone, tasksNow } from "../../core/sheet";
import { poolOf } from "../../db/client";
import { changesOf, jobsQuery, machineQuery } from "../../db/queries/machines";
import { carriedOf } from "../../db/queries/carried";
import { jobFrom } from "../../db/queries/job-from";
import { sheetRow } from "../../db/queries/jobs";
import { LAST } from "../../db/queries/mark";
import { machineResultsQuery } from "../../db/queries/results";
import { database } from "../../server/database";
import { workPlain } from "../../server/demo/plain-task";
import { freshMachine } from "../../server/jobs/fresh-machine";
import { personOf } from "../../server/jobs/person-of";
import { sign } from "../../server/jobs/commands/signing";
import { startJob } from "../../server/jobs/commands/start";
import { fill } from "./fill";
import { type Latencies, load, ms, table } from "./measure";
import { visitor } from "./visitor";

/** Papers and a long life: a report as PDF, the page of a machine with 200 visits beside its SQL, and a signature. */

const base = process.env.BASE_URL!;
const db = database();
const pool = poolOf(db);
const VISITS = 200;
const { workshopId, machines } = await fill(db, 23, 0);
// All visits are one machine’s.
const machineId = machines[0]!;
await db.transaction(async (tx) => {
  await tx.execute(sql`set local session_replication_role = replica`);
  for (const of of ["job", "result"])
    await tx.execute(sql`update ${sql.raw(of)} set machine_id = ${machineId}
      where machine_id in (select id from machine where serial like 'LOAD-%')`);
  await tx.execute(sql`
    with spread as (select id, row_number() over (order by id) as n from job where machine_id = ${machineId})
    update job j set started_at = now() - make_interval(days => 20 * s.n::int), signed_at = now() - make_interval(days => 20 * s.n::int)
    from spread s where s.id = j.id`);
  await tx.execute(
    sql`update result r set at = j.signed_at, read_at = j.signed_at from job j where j.id = r.job_id and j.machine_id = ${machineId}`,
  );
});
await db.execute(sql`analyze`);
const { rows: jobs } = await db.execute<{ id: string }>(
  sql`select id from job where machine_id = ${machineId} order by started_at desc limit ${VISITS}`,
);

const { get } = await visitor(base);
const rows = [["", "p50 ms", "p95 ms", "p50 ratio"]];
const row = (name: string, of: Latencies, beside?: Latencies) =>
  rows.push([name, ms(of.p50), ms(of.p95), beside ? `${(of.p50 / beside.p50).toFixed(1)}×` : ""]);

// One after the other: the worker lays out one at a time. Each job has its own paper, so each is made anew.
row("report as PDF, the first of the process", await load(() => get(`/jobs/${jobs[0]!.id}/report/file`), 1, 1));
row("report as PDF, made anew", await load((turn) => get(`/jobs/${jobs[turn + 1]!.id}/report/file`), 1, 60));
row("report as PDF, kept", await load((turn) => get(`/jobs/${jobs[(turn % 60) + 1]!.id}/report/file`), 1, 200));

const bare = (name: string, query: { toSQL(): { sql: string; params: unknown[] } }) => {
  const { sql: text, params } = query.toSQL();
  return (given: Record<string, unknown>) =>
    pool.query({
      name: `bench_${name}`,
      text,
      values: params.map((p) => (p && typeof p === "object" && "name" in p ? given[String(p.name)] : p)),
    });
};
const machine = bare("machine", machineQuery(db));
const visits = bare("visits", jobsQuery(db));
const results = bare("results", machineResultsQuery(db));
const sqlOfPage = async () => {
  await Promise.all([
    machine({ workshopId, machineId }),
    visits({ workshopId, machineId, at: LAST.at, before: LAST.id, limit: 13 }),
    results({ workshopId, machineId, visits: VISITS }),
  ]);
  await Promise.all([changesOf(db, workshopId, machineId, 30), carriedOf(db, workshopId, machineId)]);
};
const page = () => get(`/machines/${machineId}.data`);
await load(page, 1, 40);
await load(sqlOfPage, 1, 40);
const bareSql = await load(sqlOfPage, 1, 200);
row(`machine page, ${VISITS} visits`, await load(page, 1, 200), bareSql);
row("  its SQL alone", bareSql);

// Signatures: visits worked off to their last step, then signed one after the other.
const lead = await personOf("ilka@lowtide.example");
const { rows: models } = await db.execute<{ id: string }>(sql`select id from model where name = 'Skerry' limit 1`);
const ready: string[] = [];
for (let i = 0; i < 24; i++) {
  const jobId = randomUUID();
  const on = await freshMachine(lead, models[0]!.id, "Bench");
  await startJob(lead, jobId, {
    ...{ machineId: on, visit: ["clean"], complaint: "", schools: {}, level: "machine-warm", specCardId: null },
  });
  for (let step = 0; step < 40; step++) {
    const standing = standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
    const at = { records: standing.records, now: Date.now(), loops: standing.loops.map((l) => l.loop) };
    const next = standing
      .at(at.now)
      .flatMap(({ station, state }) => (state === "ready" ? tasksNow(station, standing.records) : []))
      .find((t) => !t.optional && !isDone(t, at));
    if (!next || next.kind === "sign") break;
    await workPlain(next, {
      target: () => ({ by: lead, jobId, commandId: randomUUID() }),
      wait: () => Promise.resolve(),
      today: "2026-05-01",
    });
  }
  ready.push(jobId);
}
const signing = async (turn: number) =>
  void (await sign({ by: lead, jobId: ready[turn]!, commandId: randomUUID() }, { name: lead.name, remark: "" }));
row("signing a visit, with its statement", await load(signing, 1, ready.length));
console.log(`\nPapers and a long life\n${table(rows)}`);
await pool.end();

import { sql } from "drizzle-orm";
import type { Database } from "../../db/client";

/** What the measured requests need to know of the filled database. */
export interface Filled {
  workshopId: string;
  openJobs: string[];
  machines: string[];
  gaugeId: string;
  /** Words to search for as somebody types them, one keystroke after the other. */
  searches: string[];
}

/** Records copied into each job; an open one is copied up to its first reading. */
const RECORDS = [
  { table: "note", open: "true" },
  { table: "tick", open: "r.key IN ('tools', 'covers')" },
  { table: "entry", open: "true" },
  { table: "reading", open: "false" },
  { table: "adjustment", open: "false" },
] as const;

/** Starts a clock on each of these jobs, due at different times: a bench full of waits. */
export async function startClocks(db: Database, jobs: readonly string[]): Promise<void> {
  for (const [i, job] of jobs.entries())
    await db.execute(sql`
      INSERT INTO timer (id, workshop_id, job_id, by, at, task, label, due_at)
        SELECT gen_random_uuid(), j.workshop_id, j.id, j.started_by, now(), 'warm.boiler-ready', 'Boiler ready', now() + make_interval(mins => ${5 + i})
        FROM job j WHERE j.id = ${job}`);
}

/** More machines without jobs, up to this many in the register. */
export async function fillRegister(db: Database, upTo: number): Promise<void> {
  await db.execute(
    sql.raw(`INSERT INTO machine SELECT (jsonb_populate_record(NULL::machine, to_jsonb(r) || jsonb_build_object('id', gen_random_uuid(), 'serial', 'LOAD-' || n))).*
      FROM machine r, generate_series(1001, ${upTo}) AS n WHERE r.serial = 'LOAD-1'`),
  );
  await db.execute(sql`ANALYZE machine`);
}

/**
 * `machines` machines of nine signed jobs each and, for the first `open` of them, an open one. Every job is a copy of a signed
 * one of the demo, so that pages carry what real ones carry.
 */
export async function fill(db: Database, machines: number, open: number): Promise<Filled> {
  const filled = await db.transaction(async (tx) => {
    // Records of signed jobs, as they would stand: the guards that let none join one stand aside.
    await tx.execute(sql`SET LOCAL session_replication_role = replica`);
    const copy = (table: string, given: string, from: string) =>
      tx.execute(
        sql.raw(
          `INSERT INTO ${table} SELECT (jsonb_populate_record(NULL::${table}, to_jsonb(r) || jsonb_build_object(${given}))).* FROM ${from}`,
        ),
      );
    await tx.execute(sql`
      CREATE TEMP TABLE template ON COMMIT DROP AS
        SELECT j.* FROM job j JOIN signature s ON s.job_id = j.id JOIN machine m ON m.id = j.machine_id
        WHERE m.serial = 'BV-70418' AND (SELECT count(*) FROM reading r WHERE r.job_id = j.id) >= 4 ORDER BY j.id LIMIT 1`);
    await tx.execute(
      sql.raw(`CREATE TEMP TABLE made_machine ON COMMIT DROP AS
        SELECT gen_random_uuid() AS id, n FROM generate_series(1, ${machines}) AS n`),
    );
    await copy(
      "machine",
      "'id', made.id, 'serial', 'LOAD-' || made.n",
      "made_machine made, machine r WHERE r.id = (SELECT machine_id FROM template)",
    );
    await tx.execute(
      sql.raw(`CREATE TEMP TABLE made_job ON COMMIT DROP AS
        SELECT gen_random_uuid() AS id, made.id AS machine_id, now() - make_interval(days => 30 * visit) AS at, visit = 0 AS is_open
        FROM made_machine made, generate_series(0, 9) AS visit WHERE visit > 0 OR made.n <= ${open}`),
    );
    await copy(
      "job",
      "'id', made.id, 'machine_id', made.machine_id, 'state', CASE WHEN made.is_open THEN 'open' ELSE 'signed' END, 'started_at', made.at, 'signed_at', CASE WHEN made.is_open THEN NULL ELSE made.at END",
      "made_job made, template r",
    );
    const given = "'id', gen_random_uuid(), 'job_id', made.id, 'at', made.at";
    for (const { table, open: kept } of RECORDS)
      await copy(
        table,
        given,
        `made_job made, ${table} r WHERE r.job_id = (SELECT id FROM template) AND (NOT made.is_open OR ${kept})`,
      );
    await copy(
      "signature",
      given,
      "made_job made, signature r WHERE r.job_id = (SELECT id FROM template) AND NOT made.is_open",
    );
    await copy(
      "result",
      "'job_id', made.id, 'machine_id', made.machine_id, 'at', made.at",
      "made_job made, result r WHERE r.job_id = (SELECT id FROM template) AND NOT made.is_open",
    );
    const ids = async (query: string) => (await tx.execute<{ id: string }>(sql.raw(query))).rows.map((r) => r.id);
    return {
      workshopId: (await ids("SELECT workshop_id AS id FROM template"))[0]!,
      gaugeId: (
        await ids(`SELECT i.id FROM instrument i JOIN template t ON t.workshop_id = i.workshop_id
                   WHERE i.in_kit ORDER BY i.position LIMIT 1`)
      )[0]!,
      openJobs: await ids("SELECT id FROM made_job WHERE is_open"),
      machines: await ids("SELECT id FROM made_machine ORDER BY n LIMIT 200"),
      searches: [
        "l",
        "lo",
        "load",
        "load-4",
        "load-42",
        "load-421",
        "skerry",
        "skerry load-99",
        "gutting",
        "nobody at all",
      ],
    };
  });
  await db.execute(sql`ANALYZE`);
  return filled;
}

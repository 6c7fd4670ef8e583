import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { connect, poolOf } from "../client";
import { type instrument, entry, instrument as instruments, job, reading } from ".";

/** The database holds numbers to what can be, whoever writes them. */

const db = connect(process.env.DATABASE_URL!);
afterAll(() => poolOf(db).end());

/** Runs a write and takes it back; the name of the rule that refused it, or "". */
async function refusedBy(write: (tx: Parameters<Parameters<typeof db.transaction>[0]>[0]) => Promise<unknown>) {
  const back = new Error("taken back");
  try {
    await db.transaction(async (tx) => {
      await write(tx);
      throw back;
    });
  } catch (error) {
    if (error === back) return "";
    const cause = ((error as Error).cause ?? error) as { constraint?: string; message: string };
    return cause.constraint ?? cause.message;
  }
  return "";
}

test("every number of double precision has a rule that knows its ends, and none takes NaN or an infinity", async () => {
  const { rows: columns } = await db.execute<{ table: string; column: string }>(sql`
    select table_name as "table", column_name as "column" from information_schema.columns
    where table_schema = 'public' and data_type = 'double precision' order by 1, 2`);
  const { rows: rules } = await db.execute<{ table: string; name: string; rule: string }>(sql`
    select conrelid::regclass::text as "table", conname as name, pg_get_expr(conbin, conrelid) as rule
    from pg_constraint where contype = 'c' and connamespace = 'public'::regnamespace`);
  expect(columns.length).toBeGreaterThan(25);
  for (const { table, column } of columns) {
    const own = rules.filter(
      (r) => r.table.replaceAll('"', "") === table && new RegExp(`\\b${column}\\b`).test(r.rule),
    );
    expect([table, column, own.length > 0]).toEqual([table, column, true]);
    const others = columns.filter((c) => c.table === table && c.column !== column);
    const values = [...others.map((c) => `1::float8 as "${c.column}"`)];
    for (const never of ["NaN", "Infinity", "-Infinity", "1e300"]) {
      const row = [`'${never}'::float8 as "${column}"`, ...values].join(", ");
      const { rows } = await db.execute<{ taken: boolean }>(
        sql.raw(`select ${own.map((r) => `(${r.rule})`).join(" and ")} as taken from (select ${row}) given`),
      );
      expect([table, column, never, rows[0]!.taken]).toEqual([table, column, never, false]);
    }
  }
});

test.each<[string, Partial<typeof instrument.$inferInsert>]>([
  ["instrument_repeatability", { repeatability: Infinity }],
  ["instrument_repeatability", { repeatability: 1e200 }],
  ["instrument_repeatability", { repeatability: -0.1 }],
  ["instrument_resolution", { resolution: 0 }],
  ["instrument_resolution", { resolution: Number.NaN }],
  ["instrument_lowest", { lowest: -400 }],
  ["instrument_error", { error: { form: "limit", limit: 1e308 } }],
  ["instrument_corrections", { corrections: [[1, 1e300]] }],
])("%s refuses %j", async (rule, change) => {
  const [any] = await db.select().from(instruments).limit(1);
  const refused = await refusedBy((tx) => tx.insert(instruments).values({ ...any!, id: randomUUID(), ...change }));
  expect(refused).toBe(rule);
  expect(await refusedBy((tx) => tx.insert(instruments).values({ ...any!, id: randomUUID() }))).toBe("");
});

test("documents hold no number beyond any of the trade", async () => {
  const [open] = await db.select().from(job).where(eq(job.state, "open")).limit(1);
  const values = (value: number) => ({
    id: randomUUID(),
    workshopId: open!.workshopId,
    jobId: open!.id,
    by: open!.startedBy,
    task: "water.hardness",
    value: { form: "figure" as const, value },
  });
  expect(await refusedBy((tx) => tx.insert(entry).values(values(1e200)))).toBe("entry_value");
  expect(await refusedBy((tx) => tx.insert(entry).values(values(40)))).toBe("");
});

test("a correction that points at another knob’s line, or another job’s, is refused by the database too", async () => {
  const rows = await db
    .select()
    .from(reading)
    .innerJoin(job, eq(job.id, reading.jobId))
    .where(
      sql`${job.state} = 'open' and not exists (select 1 from reading later where later.supersedes = ${reading.id})`,
    );
  const one = rows[0]!.reading;
  const elsewhere = rows.find((r) => r.reading.jobId !== one.jobId)!.reading;
  const correcting = (change: Partial<typeof one>) =>
    refusedBy((tx) => tx.insert(reading).values({ ...one, id: randomUUID(), supersedes: one.id, ...change }));
  expect(await correcting({})).toBe("");
  const stray = "A correction belongs to the line it corrects.";
  expect(await correcting({ knob: one.knob === "opv" ? "offset" : "opv" })).toBe(stray);
  expect(await correcting({ supersedes: elsewhere.id })).toBe(stray);
  expect(await correcting({ supersedes: randomUUID() })).toBe(stray);
});

import { randomUUID } from "node:crypto";
import { gzipSync } from "node:zlib";
import { Placeholder, eq, sql } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { openJobsQuery, sheetQuery, visitsQuery } from "../../db/queries/jobs";
import { jobsQuery, kitQuery, machineQuery } from "../../db/queries/machines";
import { account } from "../../db/schema";
import { DEMO_PASSWORD } from "../../db/seed/people";
import { fill } from "./fill";
import { type Load, load } from "./load";

/**
 * Server time of pages and of saving a reading, beside the bare SQL they need, run in the same minute on the same data.
 * The bare SQL goes straight through node-postgres, with no mapping and no rendering.
 */
const [base, url, serverUrl] = [
  process.env.BASE_URL!,
  process.env.DATABASE_URL!,
  process.env.BENCH_ORIGIN ?? process.env.BASE_URL!,
];
const [MACHINES, JOBS] = [Number(process.env.BENCH_MACHINES ?? 1000), Number(process.env.BENCH_JOBS ?? 10)];
const db = connect(url);
const pool = poolOf(db);

const say = (text: string) => process.stdout.write(`${text}\n`);
say(`${MACHINES} machines × ${JOBS} jobs …`);
const ids = await fill(db, MACHINES, JOBS);
const [lead] = await db.select().from(account).where(eq(account.email, "ilka@lowtide.example"));
const workshopId = lead!.workshopId;
const cookie = await signIn();

const pick = <T>(all: readonly T[], i: number): T => all[i % all.length]!;
/** Straight through node-postgres, prepared as the application prepares it. */
const bare = (name: string, query: { toSQL(): { sql: string; params: unknown[] } }) => {
  const { sql: text, params } = query.toSQL();
  return (values: Record<string, unknown>) =>
    pool.query({ name, text, values: params.map((p) => (p instanceof Placeholder ? values[p.name as string] : p)) });
};
const q = {
  session: bare(
    "b_session",
    db
      .select()
      .from(account)
      .where(eq(account.id, sql.placeholder("id"))),
  ),
  sheet: bare("b_sheet", sheetQuery(db)),
  kit: bare("b_kit", kitQuery(db)),
  open: bare("b_open", openJobsQuery(db)),
  visits: bare("b_visits", visitsQuery(db)),
  machine: bare("b_machine", machineQuery(db)),
  jobs: bare("b_jobs", jobsQuery(db)),
};

const pages = {
  sheet: {
    app: (i: number) => get(`/jobs/${pick(ids.jobs, i)}`),
    data: (i: number) => get(`/jobs/${pick(ids.jobs, i)}.data`),
    async sql(i: number) {
      await q.session({ id: lead!.id });
      const id = pick(ids.jobs, i);
      await Promise.all([q.sheet({ workshopId, jobId: id }), q.kit({ workshopId }), q.open({ workshopId })]);
      await q.visits({ machineId: pick(ids.machines, i), exceptJobId: id, limit: 5 });
    },
  },
  machine: {
    app: (i: number) => get(`/machines/${pick(ids.machines, i)}`),
    data: (i: number) => get(`/machines/${pick(ids.machines, i)}.data`),
    async sql(i: number) {
      await q.session({ id: lead!.id });
      const machineId = pick(ids.machines, i);
      await Promise.all([q.machine({ workshopId, machineId }), q.jobs({ machineId, limit: 12 })]);
    },
  },
};

for (const clients of [1, 20]) {
  say(`\n${clients} ${clients === 1 ? "client" : "clients"}         p50 ms   p95 ms   per s   p95 against its SQL`);
  for (const [name, page] of Object.entries(pages)) {
    const alone = await load(clients, 400, page.sql);
    row(`${name}, bare SQL`, alone);
    row(`${name}, data`, await load(clients, 400, page.data), alone);
    row(`${name}, page`, await load(clients, 400, page.app), alone);
  }
  await savings(clients);
}

say("\nJavaScript sent, gzip kB");
for (const [name, path] of [
  ["sign-in", "/sign-in"],
  ["bench", "/"],
  ["machine", `/machines/${ids.machines[0]}`],
  ["sheet", `/jobs/${ids.jobs[0]}`],
] as const)
  say(`  ${name.padEnd(10)} ${((await scriptsOf(path)) / 1000).toFixed(1).padStart(7)}`);
await pool.end();

function sheetOnce(jobId: string) {
  const { sql: text, params } = sheetQuery(db).toSQL();
  const values: Record<string, unknown> = { workshopId, jobId };
  return {
    name: "b_sheet",
    text,
    values: params.map((p) => (p instanceof Placeholder ? values[p.name as string] : p)),
  };
}

/** Saving a reading: the whole form through the application, beside the statements of its transaction. */
async function savings(clients: number) {
  const open = await pool.query<{ id: string; instrument: string }>(
    "select id, (select id from instrument where workshop_id = $1 and in_kit order by position limit 1) instrument from job where workshop_id = $1 and state = 'open' and exists (select 1 from tick t where t.job_id = job.id and t.key = 'covers') and not exists (select 1 from tick t where t.job_id = job.id and t.key = 'release') order by started_at limit 10",
    [workshopId],
  );
  const jobs = open.rows;
  // Corrections of one line chain for ever: each replaces the last, so that the sheet keeps its length while it is saved to.
  const alone = await load(clients, 200, async (i) => {
    const { id, instrument } = pick(jobs, i);
    const client = await pool.connect();
    try {
      await client.query("begin");
      await client.query(
        "insert into command (id, workshop_id, account_id, kind, payload_hash) values ($1, $2, $3, 'bench', '')",
        [randomUUID(), workshopId, lead!.id],
      );
      await client.query("select state from job where id = $1 for update", [id]);
      await client.query(sheetOnce(id));
      await client.query(
        "insert into reading (id, job_id, by, sequence, quantity, instrument_id, place, to_group, to_group_u, typed, unit, indicated, value, u, u_common, budget) values ($1, $2, $3, 4, 'brew-pressure', $4, 'group', 0, 0, '9', 'bar', 9, 9, 0.1, 0.04, '[]')",
        [randomUUID(), id, lead!.id, instrument],
      );
      await client.query("select pg_notify('job_changed', $1)", [id]);
      // Not kept: the application's turn must find the same sheets.
      await client.query("rollback");
    } finally {
      client.release();
    }
  });
  row("reading, bare SQL", alone);
  const jobReadings = new Map(
    await Promise.all(
      jobs.map(
        async ({ id }) =>
          [
            id,
            (
              await pool.query<{ id: string }>(
                "select id from reading r where job_id = $1 and not exists (select 1 from reading s where s.supersedes = r.id) order by sequence limit 1",
                [id],
              )
            ).rows[0]!.id,
          ] as const,
      ),
    ),
  );
  const busy = new Map<string, Promise<unknown>>();
  const app = await load(clients, 200, (i) => {
    const { id, instrument } = pick(jobs, i);
    // One hand per machine: the next correction of a line starts from the last.
    const turn = (busy.get(id) ?? Promise.resolve()).then(() => save(id, instrument));
    busy.set(id, turn);
    return turn;
  });
  row("reading, saved", app, alone);

  async function save(id: string, instrumentId: string) {
    const commandId = randomUUID();
    const body = new URLSearchParams({
      intent: "reading",
      commandId,
      instrumentId,
      place: "group",
      unit: "bar",
      reading: "9.0",
      supersedes: jobReadings.get(id)!,
      reason: "bench",
    });
    const response = await fetch(`${base}/jobs/${id}.data`, {
      method: "POST",
      body,
      headers: { Cookie: cookie, Origin: serverUrl },
    });
    if (response.status !== 200) throw new Error(`${response.status}: ${await response.text()}`);
    await response.arrayBuffer();
    jobReadings.set(id, commandId);
  }
}

function row(name: string, { p50, p95, perSecond }: Load, against?: Load) {
  const cells = [p50.toFixed(1), p95.toFixed(1), perSecond.toFixed(0)].map((c) => c.padStart(8)).join(" ");
  say(`  ${name.padEnd(20)}${cells}${against ? `   ${(p95 / against.p95).toFixed(1)} ×` : ""}`);
}

async function signIn(): Promise<string> {
  const response = await fetch(`${base}/sign-in`, {
    method: "POST",
    redirect: "manual",
    body: new URLSearchParams({ email: "ilka@lowtide.example", password: DEMO_PASSWORD }),
    headers: { Origin: serverUrl },
  });
  return response.headers.getSetCookie()[0]!.split(";")[0]!;
}

async function get(path: string): Promise<string> {
  const response = await fetch(base + path, { headers: { Cookie: cookie } });
  if (response.status !== 200) throw new Error(`${path}: ${response.status}`);
  return response.text();
}

/** All scripts that the page's own HTML asks for, compressed as sent. */
async function scriptsOf(path: string): Promise<number> {
  const html = await get(path);
  const names = new Set([...html.matchAll(/\/assets\/[\w.-]+\.js/g)].map((m) => m[0]));
  let total = 0;
  for (const name of names) total += gzipSync(Buffer.from(await (await fetch(base + name)).arrayBuffer())).length;
  return total;
}

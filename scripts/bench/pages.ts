import { createHash, randomUUID } from "node:crypto";
import { chromium } from "@playwright/test";
import type { SQL } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { openJobsQuery, sheetQuery } from "../../db/queries/jobs";
import { resultsQuery } from "../../db/queries/results";
import { jobsQuery, kitQuery, machineQuery } from "../../db/queries/machines";
import { FIRST, LAST } from "../../db/queries/mark";
import { findQuery, wordsOf } from "../../db/queries/register";
import { type Filled, fill, fillRegister, startClocks } from "./fill";
import { type Latencies, load, ms, table } from "./measure";
import { aReading, visitor } from "./visitor";
import { BROWSER } from "../lib/packages.mjs";

/** Pages and saving, each beside the bare SQL it needs, on 1,000 machines with ten jobs each. */

const base = process.env.BASE_URL!;
const db = connect(process.env.DATABASE_URL!);
const pool = poolOf(db);
const OPEN = 40;
const filled = await fill(db, 1000, OPEN);
const { cookie, get, post } = await visitor(base);
const token = createHash("sha256")
  .update(/ng_session=([\w-]+)/.exec(cookie)![1]!)
  .digest("hex");

/** A built query as plain text and values, for the driver alone. */
function bare(name: string, query: { toSQL(): { sql: string; params: unknown[] } }) {
  const { sql, params } = query.toSQL();
  return (given: Record<string, unknown>) =>
    pool.query({
      name: `bench_${name}`,
      text: sql,
      values: params.map((p) =>
        p && typeof p === "object" && "name" in p ? given[(p as SQL & { name: string }).name] : p,
      ),
    });
}

const session = () =>
  pool.query({
    name: "bench_session",
    text: `select a.id, a.name, a.role, a.preferences, w.* from session s join account a on a.id = s.account_id
           join workshop w on w.id = a.workshop_id where s.token_hash = $1 and s.expires_at > now() and a.active`,
    values: [token],
  });
const sheet = bare("sheet", sheetQuery(db));
const results = bare("results", resultsQuery(db));
const open = bare("open", openJobsQuery(db));
const kit = bare("kit", kitQuery(db));
const machine = bare("machine", machineQuery(db));
const jobs = bare("jobs", jobsQuery(db));
const once = (name: string, text: string) => (value: string) =>
  pool.query({ name: `bench_${name}`, text, values: [value] });
const taps = once(
  "taps",
  "select t.* from shot_tap t join job j on j.workshop_id = t.workshop_id and j.id = t.job_id where j.id = $1 order by moment desc limit 4",
);
const before = once(
  "before",
  `select s.* from job i join job j on j.workshop_id = i.workshop_id and j.machine_id = i.machine_id
   join shot s on s.workshop_id = j.workshop_id and s.job_id = j.id where i.id = $1`,
);
const programmes = once(
  "programmes",
  "select p.* from programme p join machine m on m.workshop_id = p.workshop_id and m.id = p.machine_id where m.id = $1 order by at desc",
);
const pointsOfMachine = once(
  "points_of_machine",
  `select r.* from result r join
   (select j.workshop_id, j.id from machine m join job j on j.workshop_id = m.workshop_id and j.machine_id = m.id
    where m.id = $1 and j.state = 'signed' order by j.started_at desc limit 12) v
   on v.workshop_id = r.workshop_id and v.id = r.job_id order by r.at desc, r.phase`,
);
const { workshopId } = filled;
const pick = (all: string[], turn: number) => all[turn % all.length]!;

async function sheetSql(turn: number) {
  const jobId = pick(filled.openJobs, turn);
  await session();
  await Promise.all([
    sheet({ workshopId, jobId }),
    kit({ workshopId }),
    open({ workshopId, at: FIRST.at, after: FIRST.id, limit: 13 }),
    results({ workshopId, jobId, visits: 5 }),
  ]);
}

const subjects: { name: string; page: (turn: number) => Promise<void>; sql: (turn: number) => Promise<void> }[] = [
  { name: "sheet, from another page", page: (turn) => get(`/jobs/${pick(filled.openJobs, turn)}.data`), sql: sheetSql },
  { name: "sheet, first document", page: (turn) => get(`/jobs/${pick(filled.openJobs, turn)}`), sql: sheetSql },
  {
    name: "settings: framework and session",
    page: () => get("/settings.data"),
    sql: async () => void (await session()),
  },
  {
    name: "machine page",
    page: (turn) => get(`/machines/${pick(filled.machines, turn)}.data`),
    async sql(turn) {
      const machineId = pick(filled.machines, turn);
      await session();
      await Promise.all([
        machine({ workshopId, machineId }),
        jobs({ workshopId, machineId, at: LAST.at, before: LAST.id, limit: 13 }),
        pointsOfMachine(machineId),
      ]);
    },
  },
  {
    name: "shots, from another page",
    page: (turn) => get(`/jobs/${pick(filled.openJobs, turn)}/shots.data`),
    async sql(turn) {
      const jobId = pick(filled.openJobs, turn);
      await session();
      await Promise.all([sheet({ workshopId, jobId }), kit({ workshopId }), taps(jobId)]);
      await Promise.all([before(jobId), programmes(pick(filled.machines, turn))]);
    },
  },
  {
    name: "save a reading",
    page: (turn) => post(`/jobs/${pick(filled.openJobs, turn)}.data`, aReading(filled.gaugeId)),
    sql: (turn) => saveBare(filled, turn),
  },
];

async function saveBare({ openJobs, gaugeId }: Filled, turn: number) {
  const jobId = pick(openJobs, turn);
  await session();
  const client = await pool.connect();
  const run = (name: string, text: string, values: unknown[]) =>
    client.query({ name: `bench_save_${name}`, text, values });
  try {
    const by = (await client.query("select account_id from session where token_hash = $1", [token])).rows[0].account_id;
    const id = randomUUID();
    await client.query("begin");
    await run(
      "command",
      "insert into command (id, workshop_id, account_id, kind, payload_hash) values ($1, $2, $3, 'reading', '')",
      [id, workshopId, by],
    );
    await run("lock", "select state from job where id = $1 and workshop_id = $2 for update", [jobId, workshopId]);
    const { sql, params } = sheetQuery(db).toSQL();
    await run(
      "sheet",
      sql,
      params.map((p) => (p && typeof p === "object" && "name" in p ? (p.name === "jobId" ? jobId : workshopId) : p)),
    );
    await run("gauge", "select * from instrument where id = $1 and workshop_id = $2", [gaugeId, workshopId]);
    await run(
      "reading",
      `insert into reading (id, workshop_id, job_id, by, sequence, knob, instrument_id, place, to_group, to_group_u, typed, unit, indicated, value, u, u_common, budget)
       values ($1, $5, $2, $3, 1, 'opv', $4, 'group', 0, 0, '8.2', 'bar', 8.2, 8.3, 0.1, 0.05, '[]')`,
      [id, jobId, by, gaugeId, workshopId],
    );
    await run("tell", "select pg_notify('job_changed', $1)", [jobId]);
    await client.query("commit");
  } finally {
    client.release();
  }
}

const line = (name: string, clients: number, page: Latencies, sql: Latencies) => [
  name,
  String(clients),
  ms(page.p50),
  ms(page.p95),
  ms(sql.p50),
  ms(sql.p95),
  `${(page.p95 / sql.p95).toFixed(1)}×`,
  page.perSecond.toFixed(0),
];
const rows = [["", "clients", "page p50", "page p95", "SQL p50", "SQL p95", "p95 ratio", "pages/s"]];
for (const { name, page, sql } of subjects)
  for (const clients of [1, 20]) {
    // Warm both: compiled code, prepared plans, filled caches.
    await load(page, clients, 60);
    await load(sql, clients, 60);
    const times = clients === 1 ? 300 : 800;
    rows.push(line(name, clients, await load(page, clients, times), await load(sql, clients, times)));
  }
console.log(`\nServer time in ms, 1,000 machines × 10 jobs, ${OPEN} of them open\n${table(rows)}`);

// The bench with a clock on every open job, and search as you type over a large register.
await startClocks(db, filled.openJobs);
await fillRegister(db, 10_000);
const finders = Array.from({ length: 9 }, (_, words) => bare(`find_${words}`, findQuery(db, words)));
const clocks = () =>
  pool.query({
    name: "bench_clocks",
    text: `select t.id, j.id as job_id, t.label, t.due_at, s.name from timer t join job j on j.workshop_id = t.workshop_id and j.id = t.job_id
           join machine m on m.id = j.machine_id join site s on s.id = m.site_id
           where t.workshop_id = $1 and j.state = 'open' and t.ended_at is null order by t.due_at limit 100`,
    values: [workshopId],
  });
const found = (text: string, limit: number) =>
  finders[wordsOf(text).length]!({
    workshopId,
    ...Object.fromEntries(wordsOf(text).map((w, i) => [`word${i}`, `%${w}%`])),
    afterSearch: "",
    afterId: FIRST.id,
    limit,
  });
const more: typeof subjects = [
  {
    name: `bench, ${OPEN} clocks running`,
    page: () => get("/_.data"),
    async sql() {
      await session();
      await Promise.all([open({ workshopId, at: FIRST.at, after: FIRST.id, limit: 25 }), clocks(), found("", 12)]);
    },
  },
  {
    name: "search as you type, 10,000 machines",
    page: (turn) => get(`/register.data?few=1&q=${encodeURIComponent(pick(filled.searches, turn))}`),
    async sql(turn) {
      await session();
      await Promise.all([clocks(), found(pick(filled.searches, turn), 13)]);
    },
  },
];
const moreRows = [rows[0]!];
for (const { name, page, sql } of more)
  for (const clients of [1, 20]) {
    await load(page, clients, 60);
    await load(sql, clients, 60);
    const times = clients === 1 ? 300 : 800;
    moreRows.push(line(name, clients, await load(page, clients, times), await load(sql, clients, times)));
  }
console.log(
  `\nServer time in ms, 10,000 machines in the register, ${OPEN} open jobs each with a clock\n${table(moreRows)}`,
);

const dataSizes = [["", "data, kB as sent before compression"]];
for (const [name, path] of [
  ["bench", "/_.data"],
  ["machine page", `/machines/${filled.machines[0]}.data`],
  ["sheet", `/jobs/${filled.openJobs[0]}.data`],
  ["sheet, its own part", `/jobs/${filled.openJobs[0]}.data?_routes=features%2Fjobs%2Fsheet`],
  ["shots", `/jobs/${filled.openJobs[0]}/shots.data`],
] as const) {
  const answer = await fetch(base + path, { headers: { Cookie: cookie } });
  dataSizes.push([name, ((await answer.arrayBuffer()).byteLength / 1000).toFixed(1)]);
}
console.log(`\nData of a page\n${table(dataSizes)}`);

const browser = await chromium.launch({ executablePath: BROWSER, args: ["--no-sandbox", "--disable-gpu"] });
const sizes = [["", "script, kB gzip", "files"]];
for (const [name, path] of [
  ["bench", "/"],
  ["machine page", `/machines/${filled.machines[0]}`],
  ["sheet", `/jobs/${filled.openJobs[0]}`],
  ["shots", `/jobs/${filled.openJobs[0]}/shots`],
] as const) {
  const context = await browser.newContext();
  const [cookieName, value] = cookie.split("=");
  await context.addCookies([{ name: cookieName!, value: value!, url: base }]);
  const page = await context.newPage();
  const scripts: Promise<number>[] = [];
  page.on("requestfinished", (request) => {
    if (request.resourceType() === "script") scripts.push(request.sizes().then((s) => s.responseBodySize));
  });
  await page.goto(base + path);
  await page.waitForTimeout(1500);
  const all = await Promise.all(scripts);
  sizes.push([name, (all.reduce((a, b) => a + b, 0) / 1000).toFixed(0), String(all.length)]);
  await context.close();
}
await browser.close();
console.log(`\nScript sent for a first visit\n${table(sizes)}`);
await pool.end();

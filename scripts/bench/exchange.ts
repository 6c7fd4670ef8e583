import { spawnSync } from "node:child_process";
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync, writeFileSync } from "node:fs";
import { randomUUID } from "node:crypto";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Writable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { median } from "d3-array";
import { eq, sql } from "drizzle-orm";
import pg from "pg";
import { from as copyFrom, to as copyTo } from "pg-copy-streams";
import { openTable } from "../../db/open/tables";
import { account } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { keyIn } from "../../server/api/cursor";
import { makeToken } from "../../server/api/tokens";
import { database } from "../../server/database";
import { startCheck, startStore } from "../../server/intake/answers";
import { takeIn } from "../../server/intake/arrive";
import { fileOf } from "../../server/intake/files";
import { closeQueue } from "../../server/intake/queue";
import { planOf, workOn } from "../../server/intake/work";
import { personOf } from "../../server/jobs/person-of";
import { ownMachines, ownWorkshop } from "../../server/open/own-workshop";
import { type Shape, takeOut } from "../../server/open/take-out";
import { transferOf } from "../../server/open/transfers";
import { fill } from "./fill";
import { table } from "./measure";

/** What leaves and what comes in, beside PostgreSQL’s own COPY of the same rows; and how much memory it takes. READINGS says how many leave. */

const READINGS = Number(process.env.READINGS ?? 200_000);
const ROWS = Number(process.env.ROWS ?? 100_000);
const db = database();
const folder = mkdtempSync(join(tmpdir(), "exchange-"));
process.env.TRANSFER_FOLDER = folder;
const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
await client.connect();
const out: string[][] = [["", "MB or rows", "s", "a second", "of COPY", "memory MB"]];

/** Runs it, and says how long it took and how much memory the process grew by at most. */
async function measured<T>(work: () => Promise<T>) {
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  let most = before;
  const look = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 20);
  const start = performance.now();
  const value = await work();
  clearInterval(look);
  return { value, seconds: (performance.now() - start) / 1000, grown: (most - before) / 1024 ** 2 };
}

function row(name: string, amount: number, seconds: number, beside?: number, grown?: number) {
  const rate = amount / seconds;
  const of = beside === undefined ? "" : `${Math.round((100 * rate) / beside)} %`;
  out.push([
    name,
    amount.toFixed(0),
    seconds.toFixed(1),
    rate.toFixed(0),
    of,
    grown === undefined ? "" : grown.toFixed(0),
  ]);
  return rate;
}

/** Bytes that come, thrown away. */
function counted() {
  let bytes = 0;
  const sink = new Writable({
    write(part: Buffer, _encoding, done) {
      bytes += part.length;
      done();
    },
  });
  return { sink, mb: () => bytes / 1024 ** 2 };
}

// Out: readings of signed visits, as many as asked for.
const { workshopId } = await fill(db, 200, 0);
// On a line of its own: what serves people gives up after seconds.
await client.query("begin; set local session_replication_role = replica");
await client.query(
  `insert into reading (id, workshop_id, job_id, by, at, sequence, knob, instrument_id, place, to_group, to_group_u, typed, unit, indicated, value, u, u_common, budget)
   select gen_random_uuid(), r.workshop_id, r.job_id, r.by, r.at, r.sequence, r.knob, r.instrument_id, r.place, r.to_group, r.to_group_u, r.typed, r.unit, r.indicated, r.value, r.u, r.u_common, r.budget
   from (select * from reading where workshop_id = $1 and supersedes is null and knob = 'opv' limit 1000) r, generate_series(1, $2::int)`,
  [workshopId, Math.ceil(READINGS / 1000)],
);
await client.query("commit");
await client.query("analyze");
for (const shape of ["tables", "records"] as const satisfies readonly Shape[]) {
  const source =
    shape === "tables"
      ? `copy (select * from records.reading where workshop_id = '${workshopId}') to stdout (format csv)`
      : `copy (select row_to_json(t) from reading t where workshop_id = '${workshopId}') to stdout`;
  const copied = counted();
  const copy = await measured(() => pipeline(client.query(copyTo(source)), copied.sink));
  const rate = row(`COPY TO, readings (${shape})`, copied.mb(), copy.seconds);
  const taken = await measured(() =>
    inWorkshop(workshopId, async () => {
      const stream = takeOut({
        ...{ workshopId, scope: { of: "workshop" }, shape, now: new Date(), stop: new AbortController().signal },
        tell: () => {},
      });
      await pipeline(stream, createWriteStream(join(folder, `${shape}.zip`)));
    }),
  );
  const mb = unpacked(join(folder, `${shape}.zip`));
  row(`export, ${shape}, as a zip (unpacked)`, mb, taken.seconds, rate, taken.grown);
}

// Pages for programs, over HTTP, beside the same rows asked for directly.
const PAGES = 40;
const [owner] = await db
  .select({ email: account.email })
  .from(account)
  .where(eq(account.workshopId, workshopId))
  .limit(1);
const token = await inWorkshop(workshopId, async () =>
  makeToken(await personOf(owner!.email), randomUUID(), { name: "bench", scopes: ["read"], days: 30 }),
);
const readings = openTable("readings")!;
const key = readings.key.join(", ");
const took = { plain: [] as number[], squeezed: [] as number[], sql: [] as number[] };
for (let after = "", n = 0; n < PAGES; n++) {
  const address = `${process.env.BASE_URL}/api/v1/readings?limit=1000${after && `&after=${after}`}`;
  let page: { rows: unknown[]; after: string | null } | undefined;
  for (const [how, encoding] of [
    ["plain", "identity"],
    ["squeezed", "gzip"],
  ] as const) {
    const start = performance.now();
    const headers = { Authorization: `Bearer ${token}`, "Accept-Encoding": encoding };
    const answer = await fetch(address, { headers });
    page = (await answer.json()) as typeof page;
    if (answer.status !== 200 || page!.rows.length !== 1000) throw new Error(`A page came as ${answer.status}.`);
    took[how].push(performance.now() - start);
  }
  const values = after ? keyIn(readings, after)! : [];
  const behind = after ? `and (${key}) > ($2::uuid, $3, $4::uuid)` : "";
  const began = performance.now();
  await client.query(
    `select ${readings.columns.map((c) => c.name).join(", ")} from records.reading where workshop_id = $1 ${behind} order by ${key} limit 1000`,
    [workshopId, ...values],
  );
  took.sql.push(performance.now() - began);
  after = page!.after!;
}
const bare = median(took.sql)!;
for (const how of ["plain", "squeezed"] as const) {
  const ms = median(took[how])!;
  console.log(
    `A page of 1000 readings for a program, ${how}: ${ms.toFixed(1)} ms; by its SQL alone ${bare.toFixed(1)} ms: ${(ms / bare).toFixed(1)} times.`,
  );
}

/** MB of what is in a zip, by its own list. */
function unpacked(path: string): number {
  const { stdout } = spawnSync("unzip", ["-l", path], { encoding: "utf8" });
  return Number(/(\d+)\s+\d+ files?\s*$/.exec(stdout)?.[1] ?? 0) / 1024 ** 2;
}

// In: a spreadsheet of visits, beside a copy of what comes of it.
const lead = await ownWorkshop(db);
const serials = await ownMachines(db, lead, 20);
const id = randomUUID();
const lines = Array.from({ length: ROWS }, (_, i) => {
  const day = new Date(Date.UTC(2015, 0, 13 + (i % 3000)));
  return `${day.getUTCDate()}.${day.getUTCMonth() + 1}.${day.getUTCFullYear()};${serials[i % 20]};${(8 + (i % 40) / 10).toFixed(1).replace(".", ",")};9,0;"gasket ${i}"`;
});
writeFileSync(fileOf(id), ["Date;Serial;Pressure before;Pressure after;Work done", ...lines].join("\r\n"));
lines.length = 0;
const inside = <T>(work: () => Promise<T>) => inWorkshop(lead.workshop.id, work);
await inside(() => takeIn(lead, id, { name: "visits.csv", bytes: statSync(fileOf(id)).size }));
const { encoding, separator, headed, decimals, dayOrder } = planOf(
  (await inside(() => transferOf(lead.workshop.id, id)))!,
);
await inside(() =>
  startCheck(lead, id, { encoding, separator, headed, decimals, dayOrder, targets: {}, units: {}, serials: {} }),
);
const check = await measured(() => inside(() => workOn(lead.workshop.id, id)));
await inside(() => startStore(lead, id, false));
const store = await measured(() => inside(() => workOn(lead.workshop.id, id)));
const again = randomUUID();
await db.execute(
  sql`insert into transfer (id, workshop_id, way, about, state, by) select ${again}, workshop_id, way, about, 'running', by from transfer where id = ${id}`,
);
const files = { past_visit: "", past_figure: "" };
for (const name of Object.keys(files) as (keyof typeof files)[]) {
  files[name] = join(folder, name);
  const { rows } = await client.query<{ list: string }>(
    "select string_agg(case when column_name = 'transfer_id' then quote_literal($2) || '::uuid' else quote_ident(column_name) end, ', ' order by ordinal_position) as list from information_schema.columns where table_schema = 'public' and table_name = $1",
    [name, again],
  );
  await pipeline(
    client.query(copyTo(`copy (select ${rows[0]!.list} from ${name} where transfer_id = '${id}') to stdout`)),
    createWriteStream(files[name]),
  );
}
const copy = await measured(async () => {
  for (const [name, path] of Object.entries(files))
    await pipeline(createReadStream(path), client.query(copyFrom(`copy ${name} from stdin`)));
});
const rate = row("COPY FROM, visits and their readings", ROWS, copy.seconds);
row("import, checked", ROWS, check.seconds, undefined, check.grown);
row("import, stored", ROWS, store.seconds, rate, store.grown);
row("import, both", ROWS, check.seconds + store.seconds, rate);
console.log(`\n${table(out)}`);
await closeQueue();
await client.end();
rmSync(folder, { recursive: true });
process.exit(0);

import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { account, job } from "../../db/schema";
import { signNow } from "../../server/jobs/sign-now";
import { database } from "../../server/database";
import { personOf } from "../../server/jobs/person-of";
import { grow, prepareGrowth, tokenOfGrown } from "./grow";
import { type Latencies, load, ms, table } from "./measure";
import { aReading, visitor } from "./visitor";

/**
 * The same pages at 10,000 visits and at 200,000 visits in 50 workshops (over 2 million readings): what grows, and what a visit takes on
 * disk. Takes about a quarter of an hour, and is run only when it is asked for: npm run bench -- growth
 */

const base = process.env.BASE_URL!;
const db = connect(process.env.DATABASE_URL!);
const TURNS = 150;
const SIGNED = 20;
/** Times the small one that a page may take on the big one. */
const AIM = 1.3;

const said = (table: string) => process.stdout.write(`${table} `);
const lead = await personOf("ilka@lowtide.example");
const workshopId = lead.workshop.id;
const scale = { workshops: 1, machines: 1000, visits: 10, open: 80, own: true };

await prepareGrowth(db);
console.log("Filling 10,000 visits …");
await grow(db, { ...scale, mark: "SMALL" }, said);
const { get, post } = await visitor(base);
const small = await measured("SMALL");

console.log("\nFilling 190,000 more, in 50 workshops …");
await grow(db, { workshops: 50, machines: 380, visits: 10, open: 40, own: true, mark: "BIG" }, said);
const big = await measured("SMALL");

const rows = [...small].map(([name, before]) => {
  const after = big.get(name)!;
  const ratio = after.p50 / before.p50;
  return [name, ms(before.p50), ms(after.p50), ratio.toFixed(2), ratio > AIM ? `over ${AIM}` : ""];
});
console.log(`\nThe same page, p50 ms\n${table([["", "10,000 visits", "200,000 visits", "times", ""], ...rows])}`);
await sizes();
const over = rows.filter((row) => row[4] !== "").map((row) => row[0]);
if (over.length > 0) {
  console.error(`✘ Grows with the records: ${over.join(", ")}.`);
  process.exitCode = 1;
}
await poolOf(db).end();
await poolOf(database()).end();

/** Every hot page and both writes, in the workshop that has grown. */
async function measured(mark: string): Promise<Map<string, Latencies>> {
  const ids = async (query: string) => (await db.execute<{ id: string }>(sql.raw(query))).rows.map((r) => r.id);
  const ours = `workshop_id = '${workshopId}'`;
  const jobs = await ids(
    `select j.id from job j join machine m on m.workshop_id = j.workshop_id and m.id = j.machine_id
     where j.${ours} and j.state = 'open' and m.serial like '${mark}-%' and 'pressure' = any(j.scopes) order by j.id limit 40`,
  );
  const machines = await ids(`select id from machine where ${ours} and serial like '${mark}-%' order by id limit 100`);
  const serials = await ids(
    `select serial as id from machine where ${ours} and serial like '${mark}-%' order by id limit 100`,
  );
  const [gauge] = await ids(`select id from instrument where ${ours} and name = 'Portafilter gauge A' and in_kit`);
  const tokens = await ids(
    `select ${tokenOfGrown("id")} as id from owner_link where ${ours} and revoked_at is null
      and token_hash = encode(sha256(convert_to(${tokenOfGrown("id")}, 'UTF8')), 'hex') order by token_hash limit 100`,
  );
  const pick = (all: readonly string[], turn: number) => all[turn % all.length]!;
  const clock = randomUUID();
  const pages: [string, (turn: number) => Promise<void>][] = [
    ["sheet", (i) => get(`/jobs/${pick(jobs, i)}.data`)],
    ["shots room", (i) => get(`/jobs/${pick(jobs, i)}/shots.data`)],
    ["machine page", (i) => get(`/machines/${pick(machines, i)}.data`)],
    ["bench", () => get("/_.data")],
    [
      "search, words that fit",
      (i) => get(`/register.data?few=1&q=${encodeURIComponent(pick(["loft", "lamps", "headland", "teal"], i))}`),
    ],
    ["search, one machine", (i) => get(`/register.data?few=1&q=${encodeURIComponent(pick(serials, i))}`)],
    ["search, nothing fits", () => get("/register.data?few=1&q=nobody%20at%20all")],
    ["register page", () => get("/register.data")],
    ["add a machine", () => get("/machines/new.data")],
    ["owners and sites as typed", (i) => get(`/places?owner=${pick(["t", "th", "thr", "ru"], i)}&site=`)],
    ["kit", () => get("/kit.data")],
    ["owner’s page", (i) => get(`/owner/${pick(tokens, i)}`)],
    ["save a reading", (i) => post(`/jobs/${pick(jobs, i)}.data`, aReading(gauge!))],
    [
      "tap of a shot clock",
      (i) =>
        post(
          `/jobs/${pick(jobs, i)}/tap`,
          new URLSearchParams({
            commandId: randomUUID(),
            clockId: i % 2 ? clock : randomUUID(),
            what: i % 2 ? "cleared" : "pump",
            moment: String(Date.now()),
          }),
        ).catch((error: Error) => {
          // A tap that is refused has looked just as far.
          if (!/ 4\d\d:/.test(error.message)) throw error;
        }),
    ],
  ];
  const times = new Map<string, Latencies>();
  for (const [name, page] of pages) {
    await load(page, 1, 60);
    times.set(name, await load(page, 1, TURNS));
  }
  // Signing uses a job up.
  const toSign = await ids(
    `select j.id from job j join machine m on m.workshop_id = j.workshop_id and m.id = j.machine_id
     where j.${ours} and j.state = 'open' and m.serial like '${mark}-%' order by j.id desc limit ${SIGNED + 2}`,
  );
  for (const id of toSign.splice(0, 2)) await signNow(lead, id);
  times.set("sign a visit", await load((i) => signNow(lead, toSign[i]!), 1, SIGNED));
  return times;
}

/** What a visit takes on disk, by table. */
async function sizes(): Promise<void> {
  const [counted] = await db
    .select({ visits: sql<number>`count(*)::int` })
    .from(job)
    .where(eq(job.state, "signed"));
  const [people] = await db.select({ count: sql<number>`count(*)::int` }).from(account);
  const { rows: found } = await db.execute<{ name: string; rows: number; bytes: string }>(sql`
    select c.relname as name, s.n_live_tup::int as rows, pg_total_relation_size(c.oid)::text as bytes
    from pg_class c join pg_stat_user_tables s on s.relid = c.oid where c.relname <> 'template' order by pg_total_relation_size(c.oid) desc limit 40`);
  const { visits } = counted!;
  const kb = (bytes: number) => (bytes / visits / 1000).toFixed(2);
  const total = found.reduce((sum, r) => sum + Number(r.bytes), 0);
  console.log(
    `\nOn disk, ${visits} visits, ${people!.count} people\n${table([
      ["", "rows a visit", "kB a visit"],
      ...found
        .filter((r) => Number(r.bytes) / visits > 20)
        .map((r) => [r.name, (r.rows / visits).toFixed(1), kb(Number(r.bytes))]),
      ["all", "", kb(total)],
    ])}`,
  );
}

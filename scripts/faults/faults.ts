import { randomUUID } from "node:crypto";
import { readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { asc, eq, inArray, sql } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { job, note } from "../../db/schema";
import { prepare } from "../lib/app.mjs";
import { root } from "../lib/packages.mjs";
import { freePort, openCluster } from "../lib/postgres.mjs";
import { supervise } from "../lib/supervise.mjs";
import { signedIn } from "../lib/signed-in";

/**
 * Three people save without pause while the application and its database are killed in turn, and one of its processes is made to hang: each save that was acknowledged must be
 * there exactly once, and after each fault the application must come back by itself. A cluster that writes to disk, as a real one does.
 */
const faults = Number(process.argv[2] ?? 20);
/** How long a fault may last before it is given up, ms: a deadline, not a measure; the times are printed. */
const GIVEN_UP = 90_000;
const WRITERS = 3;
const FAULTS = ["application", "database", "one of its processes", "a process that hangs"] as const;
type Fault = (typeof FAULTS)[number];

const folder = join(root, ".data", `faults-${process.pid}`);
const cluster = await openCluster(folder);
const url = cluster.ensure("faults");
await prepare(url, { demo: true });
const port = await freePort();
const base = `http://127.0.0.1:${port}`;
const house = supervise({ url, port, cluster, env: { LOG_LEVEL: "silent", WORKERS: "2" } });
await house.ready;

const cookie = await signedIn(base, "tobin@lowtide.example");
const jobs = await openJobs();
const acknowledged: string[] = [];
let running = true;
let retries = 0;
const writers = Array.from({ length: WRITERS }, (_, i) => write(jobs[i % jobs.length]!));

const times: { what: string; ms: number }[] = [];
let lost = "";
try {
  for (let n = 0; n < faults; n++) {
    const before = acknowledged.length;
    const what = FAULTS[n % FAULTS.length]!;
    process.kill(victim(what), what === "a process that hangs" ? "SIGSTOP" : "SIGKILL");
    const start = performance.now();
    // Back means that somebody’s save was acknowledged again, after those that were on their way.
    await until(async () => (await answers()) && acknowledged.length > before + WRITERS, `the ${what}, fault ${n + 1}`);
    times.push({ what, ms: performance.now() - start });
    await wait(300);
  }
} catch (error) {
  lost = (error as Error).message;
}
running = false;
await Promise.all(writers);

const db = connect(cluster.url("faults"));
const kept = await db
  .select({ id: note.id })
  .from(note)
  .where(inArray(note.id, [...acknowledged, randomUUID()]));
const [doubled] = await db
  .select({ n: sql<number>`(count(*) - count(distinct ${note.text}))::int` })
  .from(note)
  .where(sql`${note.text} like 'fault test %'`);
const missing = acknowledged.length - kept.length;
const of = (what: Fault) => {
  const all = times.filter((t) => t.what === what).map((t) => t.ms);
  return `${what}: ${all.length} kills, back after ${(Math.min(...all) / 1000).toFixed(1)} to ${(Math.max(...all) / 1000).toFixed(1)} s`;
};
console.log(`Faults: ${FAULTS.map(of).join("; ")}.`);
console.log(
  `${acknowledged.length} saves acknowledged to ${WRITERS} writers after ${retries} that had to be sent again: ${missing} lost, ${doubled!.n} doubled.`,
);
if (lost) console.error(`✘ Not back after ${GIVEN_UP / 1000} s: ${lost}`);
await poolOf(db).end();
await house.stop();
cluster.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(lost || missing !== 0 || doubled!.n !== 0 || times.length < faults ? 1 : 0);

/** The process that is to go: the application whole, one of the processes that serve it, or the database. */
function victim(what: Fault): number {
  if (what === "database") return cluster.pid();
  if (what === "application") return house.pid!;
  const serving = readFileSync(`/proc/${house.pid}/task/${house.pid}/children`, "utf8");
  return Number(serving.trim().split(/\s+/)[0]);
}

/** Saves notes one after the other, each sent until it is acknowledged, as a person’s page does. */
async function write(jobId: string) {
  for (let n = 0; running; n++) {
    const id = randomUUID();
    const body = new URLSearchParams({ intent: "note", station: "look-over", commandId: id, text: `fault test ${id}` });
    for (let attempt = 0; ; attempt++) {
      const status = await fetch(`${base}/jobs/${jobId}.data`, {
        method: "POST",
        body,
        headers: { Cookie: cookie, Origin: base },
        signal: AbortSignal.timeout(20_000),
      })
        .then(async (answer) => (await answer.text(), answer.status))
        .catch(() => 0);
      if (status === 200) {
        acknowledged.push(id);
        break;
      }
      // Nobody there, or the records do not answer: anything else is wrong.
      if (status !== 0 && status !== 503) throw new Error(`A save answered ${status}.`);
      if (!running && attempt > 200) return;
      retries++;
      await wait(100);
    }
  }
}

async function answers(): Promise<boolean> {
  return fetch(`${base}/alive`, { signal: AbortSignal.timeout(5000) }).then(
    (answer) => answer.ok,
    () => false,
  );
}

async function until(test: () => Promise<boolean>, what: string) {
  const end = Date.now() + GIVEN_UP;
  while (!(await test())) {
    if (Date.now() > end) throw new Error(what);
    await wait(50);
  }
}

async function openJobs(): Promise<string[]> {
  const own = connect(url);
  const rows = await own
    .select({ id: job.id })
    .from(job)
    .where(eq(job.state, "open"))
    .orderBy(asc(job.startedAt))
    .limit(40);
  const mine: string[] = [];
  for (const { id } of rows) {
    const answer = await fetch(`${base}/jobs/${id}`, { headers: { Cookie: cookie } });
    await answer.text();
    if (answer.status === 200) mine.push(id);
    if (mine.length === WRITERS) break;
  }
  await poolOf(own).end();
  return mine;
}

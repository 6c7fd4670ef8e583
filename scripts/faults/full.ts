import { execFileSync, spawnSync } from "node:child_process";
import { randomBytes, randomUUID } from "node:crypto";
import { closeSync, mkdirSync, openSync, readdirSync, rmSync, statfsSync, writeSync } from "node:fs";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { and, asc, eq, sql } from "drizzle-orm";
import sharp from "sharp";
import { connect, poolOf } from "../../db/client";
import { account, job, transfer } from "../../db/schema";
import { prepare } from "../lib/app.mjs";
import { root } from "../lib/packages.mjs";
import { freePort, openCluster } from "../lib/postgres.mjs";
import { supervise } from "../lib/supervise.mjs";
import { signedIn } from "../lib/signed-in";

/**
 * A disk that is full, with all that the application writes on it: database, photos, papers, exports, files that arrive. While it is full each
 * write is acknowledged and there, or said not to be saved and not there; once there is room everything works again, by itself.
 */
const SIZE = 500;
const ROUNDS = 12;
/** A deadline, not a measure, ms. */
const GIVEN_UP = 120_000;

const folder = join(root, ".data", `full-${process.pid}`);
mkdirSync(folder, { recursive: true });
if (spawnSync("mount", ["-t", "tmpfs", "-o", `size=${SIZE}m,mode=755`, "tmpfs", folder]).status !== 0) {
  console.log("Disk full: not tried, for whoever runs this may mount no small disk here.");
  rmSync(folder, { recursive: true, force: true });
  process.exit(0);
}
const wrong: string[] = [];
const filler = join(folder, "filler");
const transfers = join(folder, "transfers");
const cluster = await openCluster(folder);
for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const)
  process.once(signal, () => {
    cluster.stop();
    away();
    process.exit(1);
  });
const url = cluster.ensure("full");
await prepare(url, { demo: true });
const port = await freePort();
const base = `http://127.0.0.1:${port}`;
const house = supervise({
  url,
  port,
  cluster,
  env: { LOG_LEVEL: process.env.LOG_LEVEL ?? "silent", WORKERS: "2", TRANSFER_FOLDER: transfers },
});
await house.ready;

const cookie = await signedIn(base);
const db = connect(cluster.url("full"));
const [lead] = await db.select().from(account).where(eq(account.email, "ilka@lowtide.example"));
const of = (state: "open" | "signed") =>
  db
    .select({ id: job.id })
    .from(job)
    .where(and(eq(job.workshopId, lead!.workshopId), eq(job.state, state)))
    .orderBy(asc(job.startedAt))
    .limit(ROUNDS + 1);
const [open] = await of("open");
const signed = await of("signed");

const counts = new Map<string, { saved: number; refused: number }>();
/** Rows that must be there, and that must not, by table. */
const there: { table: string; id: string }[] = [];
const notThere: { table: string; id: string }[] = [];
const photo = await noise(900);

/** Each kind of write, once. @returns whether it was acknowledged */
const WRITES: Record<string, (n: number) => Promise<boolean>> = {
  note: async () => {
    const id = randomUUID();
    const text = `full ${randomBytes(900).toString("hex")}`;
    return kept(
      "note",
      id,
      await post(`/jobs/${open!.id}.data`, { intent: "note", station: "look-over", commandId: id, text }),
    );
  },
  photo: async () => {
    const id = randomUUID();
    const form = new FormData();
    for (const [k, v] of Object.entries({ intent: "photo", commandId: id, area: "" })) form.set(k, v);
    form.set("photo", new Blob([photo], { type: "image/jpeg" }), "front.jpg");
    return kept("photo", id, await post(`/jobs/${open!.id}.data`, form));
  },
  paper: async (n) => {
    const answer = await ask(`/jobs/${signed[n % signed.length]!.id}/report/file`);
    const whole =
      answer.status === 200 &&
      answer.body.subarray(0, 5).toString() === "%PDF-" &&
      answer.body.subarray(-8).includes("%%EOF");
    return said("paper", answer, whole);
  },
  export: async () => {
    const id = randomUUID();
    const answer = await post("/export", { commandId: id, scope: "workshop", shape: "records" });
    return said("export", answer, answer.status === 200 && isWholeZip(answer.body));
  },
  import: async () => {
    const form = new FormData();
    form.set(
      "file",
      new Blob(["serial;visited on;OPV as left\n", `BV-70517;1.2.2024;${"9 ".repeat(2_000_000)}\n`]),
      "old.csv",
    );
    const answer = await post("/import", form);
    return said("import", answer, answer.status === 302);
  },
};

try {
  for (const [what, write] of Object.entries(WRITES))
    if (what !== "import" && !(await write(0))) wrong.push(`${what}: not taken while there is room`);
  fill();
  for (let n = 1; n <= ROUNDS; n++) {
    for (const [what, write] of Object.entries(WRITES)) count(what, await write(n));
    fill();
  }
  for (const [what, { saved, refused }] of counts)
    console.log(`While full, ${what}: ${saved} acknowledged, ${refused} said not to be saved.`);
  if ([...counts.values()].every((c) => c.refused === 0)) wrong.push("nothing was refused: the disk was not full");
  rmSync(filler, { force: true });
  const start = Date.now();
  for (const [what, write] of Object.entries(WRITES)) {
    if (what === "import") continue;
    while (!(await write(0))) {
      if (Date.now() - start > GIVEN_UP) throw new Error(`${what}: not back ${GIVEN_UP / 1000} s after there was room`);
      await wait(200);
    }
  }
  console.log(`With room again all of it works after ${((Date.now() - start) / 1000).toFixed(1)} s.`);
  // A request that its sender gave up goes on for a while: then each file that lies there is one that was taken.
  for (let strays = await left(); strays.length > 0; strays = await left()) {
    if (Date.now() - start > GIVEN_UP) throw new Error(`half a file lies in the transfers: ${strays.join(", ")}`);
    await wait(500);
  }
  const exists = async ({ table, id }: { table: string; id: string }) =>
    (await db.execute(sql`select 1 from ${sql.identifier(table)} where id = ${id}`)).rows.length === 1;
  for (const row of there)
    if (!(await exists(row))) wrong.push(`${row.table} ${row.id} was acknowledged and is not there`);
  for (const row of notThere)
    if (await exists(row)) wrong.push(`${row.table} ${row.id} was said not to be saved and is there`);
  console.log(`${there.length} acknowledged rows are there, ${notThere.length} refused ones are not.`);
} catch (error) {
  wrong.push((error as Error).message);
}
for (const line of wrong.slice(0, 20)) console.error(`✘ ${line}`);
await poolOf(db).end();
await house.stop();
cluster.stop();
away();
process.exit(wrong.length === 0 ? 0 : 1);

/** The small disk is no more, however this ends. */
function away() {
  execFileSync("umount", ["-l", folder]);
  rmSync(folder, { recursive: true, force: true });
}

/** Takes all room that is left. */
function fill() {
  const file = openSync(filler, "a");
  const piece = Buffer.alloc(64 * 1024, 1);
  try {
    for (let size = piece.length; size >= 1;)
      try {
        writeSync(file, piece, 0, size);
      } catch {
        size = Math.floor(size / 2);
      }
  } finally {
    closeSync(file);
  }
  if (statfsSync(folder).bavail > 4) throw new Error("The small disk could not be filled.");
}

/** Files of no transfer. */
async function left(): Promise<string[]> {
  const names = readdirSync(transfers);
  const known = await db.select({ id: transfer.id }).from(transfer);
  return names.filter((name) => !known.some(({ id }) => name.startsWith(id)));
}

function count(what: string, saved: boolean) {
  const c = counts.get(what) ?? { saved: 0, refused: 0 };
  c[saved ? "saved" : "refused"]++;
  counts.set(what, c);
}

interface Answer {
  status: number;
  body: Buffer;
}

/** A write of one row. Sent again by its page until it is answered: what has no answer may be there or not. */
function kept(table: string, id: string, answer: Answer): boolean {
  const saved = answer.status === 200;
  if (answer.status !== 0) (saved ? there : notThere).push({ table, id });
  return said(table, answer, saved);
}

/** Not saved is said in words, as what a page shows; an answer of 5xx that says nothing is wrong. */
function said(what: string, { status, body }: Answer, saved: boolean): boolean {
  const inWords = /do not answer|no room|not saved|full/i.test(body.toString("utf8"));
  if (!saved && status !== 0 && !(status === 503 || status === 507 || (status < 500 && inWords)))
    wrong.push(`${what}: answered ${status}: ${body.toString("utf8").slice(0, 200)}`);
  return saved;
}

/** A zip’s directory stands at its end. */
function isWholeZip(body: Buffer): boolean {
  return body.subarray(-22, -18).equals(Buffer.from("504b0506", "hex"));
}

async function ask(path: string): Promise<Answer> {
  return answerTo(fetch(`${base}${path}`, { headers: { Cookie: cookie }, signal: AbortSignal.timeout(30_000) }));
}

async function post(path: string, body: Record<string, string> | FormData): Promise<Answer> {
  return answerTo(
    fetch(`${base}${path}`, {
      method: "POST",
      body: body instanceof FormData ? body : new URLSearchParams(body),
      headers: { Cookie: cookie, Origin: base },
      redirect: "manual",
      signal: AbortSignal.timeout(30_000),
    }),
  );
}

async function answerTo(asked: Promise<Response>): Promise<Answer> {
  try {
    const answer = await asked;
    return { status: answer.status, body: Buffer.from(await answer.arrayBuffer()) };
  } catch {
    return { status: 0, body: Buffer.alloc(0) };
  }
}

/** A picture that does not get smaller. @param side px */
function noise(side: number): Promise<Buffer<ArrayBuffer>> {
  const raw = { width: side, height: side, channels: 3 } as const;
  return sharp(randomBytes(side * side * 3), { raw })
    .jpeg({ quality: 90 })
    .toBuffer() as Promise<Buffer<ArrayBuffer>>;
}

import PgBoss from "pg-boss";
import { sql } from "drizzle-orm";
import type { Database } from "../../db/client";
import { APP_ROLE } from "../../db/roles";
import { log, traceOf } from "../log";

/** What waits for the worker: a queue in the same database, in a schema of its own. */

const SCHEMA = "queue";
const INTAKE = "intake";
/** Rests between two looks for something to do, s. */
const POLL = 0.5;
/** Beyond, nobody works on it any more: it is tried again, s. What it is about goes on where it was. */
const LONGEST = 6 * 3600;

export interface Task {
  readonly workshopId: string;
  readonly transferId: string;
}

const boss = (url: string, more: PgBoss.ConstructorOptions) => {
  const made = new PgBoss({ connectionString: url, schema: SCHEMA, schedule: false, max: 2, ...more });
  made.on("error", (error) => log.warn(traceOf(error), "the queue"));
  return made;
};

/** Makes the queue, or brings it up to date: as whoever owns the tables. */
export async function makeQueue(db: Database, url: string): Promise<void> {
  const owner = boss(url, { supervise: false });
  await owner.start();
  await owner.createQueue(INTAKE, {
    name: INTAKE,
    retryLimit: 5,
    retryDelay: 2,
    retryBackoff: true,
    expireInSeconds: LONGEST,
  });
  await owner.stop({ graceful: false, wait: true });
  const run = (text: string) => db.execute(sql.raw(text));
  const { rows } = await db.execute<{ there: boolean }>(
    sql`select exists (select from pg_roles where rolname = ${APP_ROLE}) as there`,
  );
  if (!rows[0]!.there) return;
  await run(`grant usage on schema ${SCHEMA} to ${APP_ROLE}`);
  await run(`grant select, insert, update, delete on all tables in schema ${SCHEMA} to ${APP_ROLE}`);
  await run(`grant execute on all functions in schema ${SCHEMA} to ${APP_ROLE}`);
}

let sending: Promise<PgBoss> | undefined;

/** Says that a transfer waits. Where it is not heard the worker finds it by itself, later. */
export async function announce(task: Task): Promise<void> {
  try {
    sending ??= (async () => {
      const made = boss(process.env.DATABASE_URL!, { migrate: false, supervise: false });
      await made.start();
      return made;
    })();
    await (await sending).send(INTAKE, task, { singletonKey: `${task.transferId}-${Date.now()}` });
  } catch (error) {
    sending = undefined;
    log.warn(traceOf(error as Error), "the worker was not told; it will look by itself");
  }
}

/** For whoever ends: what is sent over is not kept open. */
export async function closeQueue(): Promise<void> {
  const open = sending;
  sending = undefined;
  await open?.then((b) => b.stop({ graceful: false, wait: true })).catch(() => {});
}

/** Works on what comes, until it is told to stop. @returns how to stop it */
export async function listenFor(work: (task: Task) => Promise<void>): Promise<() => Promise<void>> {
  const made = boss(process.env.DATABASE_URL!, { migrate: false });
  await made.start();
  await made.work<Task>(INTAKE, { pollingIntervalSeconds: POLL }, async ([job]) => {
    if (job) await work(job.data);
  });
  return () => made.stop({ graceful: true, wait: true, timeout: 10_000 });
}

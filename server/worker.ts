import { sql } from "drizzle-orm";
import { poolOf } from "../db/client";
import { inWorkshop } from "../db/wall";
import { sayAlive } from "./alive.mjs";
import { database } from "./database";
import { listenFor } from "./intake/queue";
import { sweep } from "./intake/sweep";
import { workOn } from "./intake/work";
import { log, traceOf } from "./log";

/** The second process: what takes longer than anybody should wait for a page. One is enough; two share the work. */

/** What was announced to nobody, or whose worker was killed, is found by looking, ms. */
const LOOK_EVERY = 5000;

const busy = new Set<string>();

async function work({ workshopId, transferId }: { workshopId: string; transferId: string }): Promise<void> {
  if (busy.has(transferId)) return;
  busy.add(transferId);
  try {
    await inWorkshop(workshopId, () => workOn(workshopId, transferId));
  } finally {
    busy.delete(transferId);
  }
}

async function lookAround(): Promise<void> {
  const { rows } = await database().execute<{ workshop_id: string; id: string }>(
    sql`select workshop_id, id from waiting_transfers()`,
  );
  for (const { workshop_id: workshopId, id: transferId } of rows)
    await work({ workshopId, transferId }).catch((error: unknown) =>
      log.error(traceOf(error as Error), "an import failed"),
    );
}

const stop = await listenFor(work);
let ended = false;
const around = (async () => {
  while (!ended) {
    await lookAround().catch((error: unknown) => log.warn(traceOf(error as Error), "the worker could not look around"));
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY).unref());
  }
})();
void around;

/** How often files are looked for that are of no use any more, ms. */
const SWEEP_EVERY = 3_600_000;
const swept = () =>
  void sweep().catch((error: unknown) => log.warn(traceOf(error as Error), "old files were not swept"));
swept();
setInterval(swept, SWEEP_EVERY).unref();

const end = async () => {
  ended = true;
  await stop().catch(() => {});
  await poolOf(database()).end();
  process.exit(0);
};
for (const name of ["SIGINT", "SIGTERM"] as const) process.on(name, () => void end());
// Whoever started it is gone, perhaps killed.
process.on("disconnect", () => void end());
process.send?.("listening");
sayAlive();

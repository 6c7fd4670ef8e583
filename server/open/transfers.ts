import { and, desc, eq, inArray, lt, sql } from "drizzle-orm";
import { machine, owner, transfer } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { log, traceOf } from "../log";
import { moment } from "../moment";
import { forgetFiles } from "../intake/files";
import { may, need } from "../permissions";
import { Refused } from "../refused";
import { inTransaction, oneByOne } from "../transaction";
import { type Scope, scopeText } from "./scope";
import { type Shape, takeOut } from "./take-out";

/** Files on their way, as everybody sees them: how far each is, and how it ended. Kept in the database, since any process may be asked. */

export type Transfer = typeof transfer.$inferSelect;

/** How often a row is brought up to date while something runs, ms. */
const EVERY = 500;
/** A process that has said nothing for so long is gone, ms. */
export const GONE_AFTER = 30_000;
/** At once, of one workshop. Our choice: each holds a connection and a core. */
const MOST_OUT = 3;

export async function transferOf(workshopId: string, id: string): Promise<Transfer | null> {
  const [row] = await database()
    .select()
    .from(transfer)
    .where(and(eq(transfer.workshopId, workshopId), eq(transfer.id, id)));
  return row ?? null;
}

/** Of somebody’s own; a lead sees all of the workshop’s. To others it is not there. */
export async function transferFor(by: SignedIn, id: string): Promise<Transfer | null> {
  const row = await transferOf(by.workshop.id, id);
  return row && (row.by === by.id || may(by, "records")) ? row : null;
}

/** The newest of a workshop. */
export const transfersOf = (workshopId: string, limit: number): Promise<Transfer[]> =>
  database().select().from(transfer).where(eq(transfer.workshopId, workshopId)).orderBy(desc(transfer.at)).limit(limit);

export async function setTransfer(workshopId: string, id: string, change: Partial<Transfer>): Promise<void> {
  await inTransaction((tx) =>
    tx
      .update(transfer)
      .set({ ...change, aliveAt: new Date() })
      .where(and(eq(transfer.workshopId, workshopId), eq(transfer.id, id))),
  );
}

/** Asks what runs to stop; what waits for somebody’s answer is stopped at once. @returns false where there is no such thing */
export async function stopTransfer(by: SignedIn, id: string): Promise<boolean> {
  if (!(await transferFor(by, id))) return false;
  const workshopId = by.workshop.id;
  const of = and(eq(transfer.workshopId, workshopId), eq(transfer.id, id));
  const stopped = await inTransaction(async (tx) => {
    await tx
      .update(transfer)
      .set({ state: "stopping", said: "Stopping" })
      .where(and(of, eq(transfer.state, "running")));
    return tx
      .update(transfer)
      .set({ state: "stopped", said: "Stopped. Nothing was stored." })
      .where(and(of, inArray(transfer.state, ["waiting", "asked"])))
      .returning({ id: transfer.id });
  });
  if (stopped.length > 0) await forgetFiles(id);
  return true;
}

/** Somebody said that it is to stop. */
export class Stopped extends Error {}

/** Says how far the work on a file is. @throws Stopped where it is to stop */
export async function heard({ workshopId, id }: Transfer, said: string, done?: number): Promise<void> {
  const now = await transferOf(workshopId, id);
  if (now?.state === "stopping") throw new Stopped();
  await setTransfer(workshopId, id, { said, ...(done === undefined ? {} : { done }) });
}

/** Says how far something is, now and then, and hears whether it is to stop. */
function keepTold(workshopId: string, id: string, onStop: () => void) {
  let last = 0;
  let telling: Promise<unknown> = Promise.resolve();
  const tell = (done: number, total: number, said: string) => {
    const now = performance.now();
    if (now - last < EVERY) return;
    last = now;
    telling = inWorkshop(workshopId, async () => {
      await setTransfer(workshopId, id, { done, total, said });
      const row = await transferOf(workshopId, id);
      if (row?.state === "stopping") onStop();
    }).catch((error: unknown) => log.warn(traceOf(error as Error), "a transfer’s progress was not kept"));
  };
  return { tell, settled: () => telling };
}

const WAYS = { records: "records-out", tables: "tables-out" } as const;

/**
 * Takes records out as a zip.
 *
 * @param id the command’s: of two requests with one id the second is refused
 * @throws Refused when it may not be done, or too much is on its way
 */
export async function sendOut(
  by: SignedIn,
  { id, scope, shape, signal }: { id: string; scope: Scope; shape: Shape; signal: AbortSignal },
): Promise<ReadableStream<Uint8Array>> {
  need(by, scope.of === "workshop" ? "records" : "work");
  const { id: workshopId } = by.workshop;
  const at = moment();
  await inTransaction(async (tx) => {
    await oneByOne(tx, `exports of ${workshopId}`);
    const busy = await tx.$count(
      transfer,
      and(
        eq(transfer.workshopId, workshopId),
        eq(transfer.state, "running"),
        inArray(transfer.way, ["records-out", "tables-out"]),
        sql`${transfer.aliveAt} > now() - ${`${GONE_AFTER} ms`}::interval`,
      ),
    );
    if (busy >= MOST_OUT) throw new Refused("Three exports are running already. Wait for one to end, or stop it.");
    const made = await tx
      .insert(transfer)
      .values({ id, workshopId, way: WAYS[shape], about: scopeText(scope), state: "running", by: by.id, at })
      .onConflictDoNothing()
      .returning({ id: transfer.id });
    if (made.length === 0) throw new Refused("This export was started already. Load the page to start another.");
  });
  const stop = new AbortController();
  const { tell, settled } = keepTold(workshopId, id, () => stop.abort());
  signal.addEventListener("abort", () => stop.abort(), { once: true });
  let last = { done: 0, total: 0 };
  const zip = takeOut({
    ...{ workshopId, scope, shape, now: at, stop: stop.signal },
    tell(done, total, what) {
      last = { done, total };
      tell(done, total, what);
    },
  });
  const end = (state: "done" | "failed" | "stopped", said: string) =>
    void settled()
      .then(() => inWorkshop(workshopId, () => setTransfer(workshopId, id, { ...last, state, said })))
      .catch((error: unknown) => log.warn(traceOf(error as Error), "a transfer’s end was not kept"));
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        zip.on("data", (part: Buffer) => {
          controller.enqueue(new Uint8Array(part));
          if ((controller.desiredSize ?? 1) <= 0) zip.pause();
        });
        zip.once("end", () => {
          controller.close();
          end("done", "Complete");
        });
        zip.once("error", (error) => {
          controller.error(error);
          if (stop.signal.aborted) return end("stopped", "Stopped. The file is not complete.");
          log.error(traceOf(error), "an export failed");
          end("failed", "It failed on the way. The file is not complete: start it again.");
        });
        zip.pause();
      },
      pull() {
        zip.resume();
      },
      cancel() {
        stop.abort();
        zip.destroy();
        end("stopped", "Stopped. The file is not complete.");
      },
    },
    new ByteLengthQueuingStrategy({ highWaterMark: 1024 * 1024 }),
  );
}

/** What a file of a scope is called: by owner or serial, in letters that every system takes. @returns null where there is no such thing */
export async function nameOfScope(
  { workshop: { id: workshopId, name } }: SignedIn,
  scope: Scope,
): Promise<string | null> {
  const plain = (text: string) =>
    text
      .normalize("NFKD")
      .replace(/[^A-Za-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .toLowerCase();
  if (scope.of === "workshop") return plain(name);
  const table = scope.of === "owner" ? owner : machine;
  const [row] = await database()
    .select({ name: scope.of === "owner" ? owner.name : machine.serial })
    .from(table as typeof owner)
    .where(and(eq(table.workshopId, workshopId), eq(table.id, scope.id)));
  return row ? plain(row.name) : null;
}

/** What a page shows of one. */
export const viewOf = ({ id, said, done, total, state }: Transfer) => ({
  ...{ id, said, done, total, state },
  ended: !["waiting", "running", "stopping", "asked"].includes(state),
});

/** Whoever worked on it is gone without a word: it says so, and nothing waits for it any more. */
export async function forgetGone(workshopId: string): Promise<void> {
  await inTransaction((tx) =>
    tx
      .update(transfer)
      .set({ state: "failed", said: "It was cut off. Start it again." })
      .where(
        and(
          eq(transfer.workshopId, workshopId),
          inArray(transfer.way, ["records-out", "tables-out"]),
          inArray(transfer.state, ["running", "stopping"]),
          lt(transfer.aliveAt, new Date(Date.now() - GONE_AFTER)),
        ),
      ),
  );
}

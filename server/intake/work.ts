import { createWriteStream } from "node:fs";
import { and, eq, inArray, lt, or, sql } from "drizzle-orm";
import Papa from "papaparse";
import { type CellError, type PastRow, type Plan, readerOf, rowText } from "../../core/intake";
import { dayIn } from "../../core/day";
import type { Transaction } from "../../db/client";
import { serialsOf } from "../../db/queries/serials";
import { pastVisit, transfer, workshop } from "../../db/schema";
import { database } from "../database";
import { FORMULA } from "../formula";
import { GONE_AFTER, Stopped, type Transfer, heard, setTransfer } from "../open/transfers";
import { sha256 } from "../proof/keys";
import { inTransaction, oneByOne } from "../transaction";
import { errorsOf, fileOf, forgetFiles, hasFile, isDiskFull } from "./files";
import { forgetFolder } from "./records/unpack";
import { workOnRecords } from "./records/work";
import { type FileRow, Unreadable, rowsOf } from "./rows";

/**
 * The work on a table that has arrived: looked through first, whole, and nothing stored; stored then, some rows at a time. Cut off anywhere,
 * it goes on after the rows that were stored. What was stored counts once all of it is: before, and where it was stopped, none of it does.
 */

export interface RowError extends CellError {
  readonly line: number;
}

/** What came of looking through a file. */
export interface Found {
  readonly rows: number;
  readonly good: number;
  readonly bad: number;
  /** Good, and stored already: by an earlier file, or by a line before in this one. */
  readonly known: number;
  /** The first of them; all stand in the file of errors. */
  readonly errors: readonly RowError[];
  readonly errorCount: number;
  /** Serials that no machine has, and how often. */
  readonly serials: readonly (readonly [string, number])[];
  /** Rows stored so far. */
  readonly stored?: number;
}

/** Rows of one write. */
const AT_A_TIME = 2000;
const ERRORS_SHOWN = 200;
const SERIALS_SHOWN = 100;
/** A row that is not seen for so long was cut off; the worker that has it says so more often, ms. */
const SILENT = GONE_AFTER / 2;

export type Next = "check" | "store";

/** The plan and what is to be done with it, as they lie in the transfer. */
export const planOf = (row: Transfer) => row.plan as unknown as Plan & { readonly next?: Next };
export const foundOf = (row: Transfer) => row.found as Partial<Found>;

/** Takes a transfer that waits, or whose worker has gone silent. Of two that try one gets it. */
async function claim(workshopId: string, id: string): Promise<Transfer | null> {
  const [row] = await inTransaction((tx) =>
    tx
      .update(transfer)
      .set({ state: "running", aliveAt: new Date() })
      .where(
        and(
          eq(transfer.workshopId, workshopId),
          eq(transfer.id, id),
          or(
            eq(transfer.state, "waiting"),
            and(inArray(transfer.state, ["running", "stopping"]), lt(transfer.aliveAt, new Date(Date.now() - SILENT))),
          ),
        ),
      )
      .returning(),
  );
  return row ?? null;
}

/** Does what is to be done next with a table. Inside its workshop (`db/wall.ts`). Nothing where somebody else does it. */
export async function workOn(workshopId: string, id: string): Promise<void> {
  const row = await claim(workshopId, id);
  if (!row) return;
  try {
    if (!(await hasFile(id))) throw new Unreadable("The file is no longer here. Send it again.");
    if (row.way === "records-in") return await workOnRecords(row);
    const plan = planOf(row);
    if (plan.next === "store") await store(row, plan);
    else await check(row, plan);
  } catch (error) {
    const [stopped, unreadable] = [error instanceof Stopped, error instanceof Unreadable];
    if (stopped || unreadable) {
      const said = stopped ? "Stopped. Nothing of it counts." : (error as Error).message;
      await setTransfer(workshopId, id, { state: stopped ? "stopped" : "failed", said });
      return Promise.all([forgetFiles(id), forgetFolder(id)]).then(() => {});
    }
    // Kept as it is: it is taken up again where it was, but not for ever; for room on the disk it waits as long as it takes.
    const full = isDiskFull(error);
    const tries = Number(row.found.tries ?? 0) + (full ? 0 : 1);
    const again = {
      state: "waiting",
      said: full ? "Waiting for room on the workshop’s disk" : "Waiting to go on",
      found: sql`${transfer.found} || ${JSON.stringify({ tries })}::jsonb`,
    };
    const over = {
      state: "failed",
      said: "It failed again and again, through no fault of the file. Nothing of it counts.",
    };
    await setTransfer(workshopId, id, (tries < MOST_TRIES ? again : over) as Partial<Transfer>);
    throw error;
  }
}

/** How often something is taken up again that failed by itself. */
const MOST_TRIES = 5;

const hashOf = (row: PastRow) => sha256(rowText(row));

async function readerFor(row: Transfer, plan: Plan) {
  const [machines, [shop]] = await Promise.all([
    serialsOf(database(), row.workshopId),
    database().select({ zone: workshop.timeZone }).from(workshop).where(eq(workshop.id, row.workshopId)),
  ]);
  return readerOf(plan, (serial) => machines.get(serial)?.id, dayIn(shop!.zone, row.at.getTime()));
}

/** Rows of the file without its heads, some at a time; between them it says how far it is, and stops where it was told to. */
async function* lots(row: Transfer, plan: Plan, what: string, after = 0): AsyncGenerator<FileRow[]> {
  const heads = plan.headed ? 1 : 0;
  let seen = 0;
  let lot: FileRow[] = [];
  for await (const next of rowsOf(fileOf(row.id), plan)) {
    if (seen++ < heads || next.line <= after) continue;
    lot.push(next);
    if (lot.length < AT_A_TIME) continue;
    await heard(row, `${what} line ${lot.at(-1)!.line}`, next.bytes);
    yield lot;
    lot = [];
  }
  if (lot.length > 0) yield lot;
}

/**
 * Which of these rows are stored already: by an earlier file that counts, or by this one. Each is looked up by its hash. Told the workshop
 * outright, the database takes one that it has no statistics of yet for empty, and goes through all that the file has stored, for each row.
 */
async function knownOf(
  tx: Pick<Transaction, "execute">,
  { workshopId, id }: Pick<Transfer, "workshopId" | "id">,
  hashes: readonly string[],
): Promise<Set<string>> {
  if (hashes.length === 0) return new Set();
  const { rows } = await tx.execute<{ hash: string }>(sql`
    select w.hash from unnest(${sql.param([...hashes])}::text[]) w (hash)
    cross join lateral (
      select p.transfer_id from past_visit p where p.workshop_id = (select ${workshopId}::uuid) and p.hash = w.hash offset 0
    ) p
    join transfer f on f.workshop_id = ${workshopId} and f.id = p.transfer_id
    where f.state = 'done' or f.id = ${id}`);
  return new Set(rows.map((r) => r.hash));
}

async function check(row: Transfer, plan: Plan): Promise<void> {
  const reader = await readerFor(row, plan);
  const errors: RowError[] = [];
  const serials = new Map<string, number>();
  const seen = new Set<string>();
  let [rows, good, bad, known, errorCount] = [0, 0, 0, 0, 0];
  const list = createWriteStream(errorsOf(row.id), { mode: 0o600 });
  list.write(`\uFEFF${table([["line", "column", "typed", "reason", "fix"]])}`);
  for await (const lot of lots(row, plan, "Checking")) {
    const fresh: string[] = [];
    const said: string[][] = [];
    for (const { line, cells } of lot) {
      rows++;
      const read = reader.read(cells);
      if (read.ok) {
        good++;
        // Half a SHA-256 is enough to tell rows of a file apart.
        const hash = hashOf(read.row);
        const short = hash.slice(0, 32);
        if (seen.has(short)) known++;
        else fresh.push(hash);
        seen.add(short);
        continue;
      }
      bad++;
      for (const error of read.errors) {
        errorCount++;
        if (errors.length < ERRORS_SHOWN) errors.push({ line, ...error });
        if (error.serial && (serials.has(error.serial) || serials.size < SERIALS_SHOWN))
          serials.set(error.serial, (serials.get(error.serial) ?? 0) + 1);
        said.push([String(line), error.column, error.typed, error.reason, error.fix]);
      }
    }
    known += (await knownOf(database(), row, fresh)).size;
    if (said.length > 0 && !list.write(table(said))) await new Promise<void>((go) => list.once("drain", () => go()));
  }
  await new Promise<void>((resolve, reject) => list.once("error", reject).end(() => resolve()));
  const found: Found = {
    rows,
    good,
    bad,
    known,
    errors,
    errorCount,
    serials: [...serials].sort((a, b) => b[1] - a[1]),
  };
  await setTransfer(row.workshopId, row.id, {
    ...{ state: "asked", done: row.total, said: "Checked. Nothing is stored yet." },
    found: found as unknown as Record<string, unknown>,
  });
}

/** Lines of a table that no spreadsheet runs. */
const table = (rows: readonly (readonly string[])[]) =>
  `${Papa.unparse(rows as string[][], { escapeFormulae: FORMULA, newline: "\r\n" })}\r\n`;

async function store(row: Transfer, plan: Plan): Promise<void> {
  const { workshopId, id } = row;
  const reader = await readerFor(row, plan);
  // Of two files with the same rows the second is to see what the first has stored.
  await oneAtATime(row, async (after) => {
    for await (const lot of lots(row, plan, "Storing", after)) {
      const wanted = new Map<string, { line: number; row: PastRow }>();
      for (const { line, cells } of lot) {
        const read = reader.read(cells);
        if (!read.ok) continue;
        const hash = hashOf(read.row);
        if (!wanted.has(hash)) wanted.set(hash, { line, row: read.row });
      }
      await inTransaction((tx) => storeLot(tx, { workshopId, id, last: lot.at(-1)!.line }, wanted));
    }
    await inTransaction(async (tx) => {
      const stored = await tx.$count(
        pastVisit,
        and(eq(pastVisit.workshopId, workshopId), eq(pastVisit.transferId, id)),
      );
      await tx
        .update(transfer)
        .set({
          ...{ state: "done", done: row.total, said: `Imported: ${stored} ${stored === 1 ? "visit" : "visits"}.` },
          found: sql`${transfer.found} || ${JSON.stringify({ stored })}::jsonb`,
        })
        .where(and(eq(transfer.workshopId, workshopId), eq(transfer.id, id)));
    });
  });
  await forgetFiles(id);
}

/** One table of a workshop is stored at a time: it waits for the one before it. @param work hears after which line to go on */
async function oneAtATime(row: Transfer, work: (after: number) => Promise<void>): Promise<void> {
  const { workshopId, id } = row;
  for (;;) {
    const mine = await inTransaction(async (tx) => {
      await oneByOne(tx, `store ${workshopId}`);
      const busy = await tx.$count(
        transfer,
        and(
          eq(transfer.workshopId, workshopId),
          sql`${transfer.id} <> ${id}`,
          sql`${transfer.found} ->> 'storing' = 'yes'`,
          inArray(transfer.state, ["running", "waiting"]),
        ),
      );
      if (busy > 0) return false;
      await tx
        .update(transfer)
        .set({ found: sql`${transfer.found} || '{"storing": "yes"}'::jsonb` })
        .where(and(eq(transfer.workshopId, workshopId), eq(transfer.id, id)));
      return true;
    });
    if (mine) break;
    await heard(row, "Waiting for another import", 0);
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  const [last] = await database()
    .select({ line: sql<number | null>`(${transfer.found} ->> 'line')::int` })
    .from(transfer)
    .where(and(eq(transfer.workshopId, workshopId), eq(transfer.id, id)));
  await work(last?.line ?? 0);
}

interface Lot {
  readonly workshopId: string;
  readonly id: string;
  readonly last: number;
}

async function storeLot(
  tx: Transaction,
  { workshopId, id, last }: Lot,
  wanted: ReadonlyMap<string, { line: number; row: PastRow }>,
): Promise<void> {
  const known = await knownOf(tx, { workshopId, id }, [...wanted.keys()]);
  const fresh = [...wanted].filter(([hash]) => !known.has(hash));
  const column = <T>(of: (one: { line: number; row: PastRow; hash: string }) => T) =>
    sql.param(fresh.map(([hash, one]) => of({ ...one, hash })));
  if (fresh.length > 0)
    await tx.execute(sql`
      insert into past_visit (workshop_id, transfer_id, line, machine_id, done_on, done_by, work, note, hash)
      select ${workshopId}, ${id}, * from unnest(${column((f) => f.line)}::int[], ${column((f) => f.row.machineId)}::uuid[],
        ${column((f) => f.row.doneOn)}::date[], ${column((f) => f.row.doneBy)}::text[], ${column((f) => f.row.work)}::text[],
        ${column((f) => f.row.note)}::text[], ${column((f) => f.hash)}::text[])`);
  const figures = fresh.flatMap(([, { line, row }]) =>
    row.figures.map((figure, i) => ({ line, no: i + 1, ...figure })),
  );
  const each = <T>(of: (figure: (typeof figures)[number]) => T) => sql.param(figures.map(of));
  if (figures.length > 0)
    await tx.execute(sql`
      insert into past_figure (workshop_id, transfer_id, line, no, knob, group_no, button, phase, dimension, typed, unit, value)
      select ${workshopId}, ${id}, * from unnest(${each((f) => f.line)}::int[], ${each((f) => f.no)}::int[],
        ${each((f) => f.knob)}::text[], ${each((f) => f.group)}::smallint[], ${each((f) => f.button)}::text[],
        ${each((f) => f.phase)}::text[], ${each((f) => f.dimension)}::text[], ${each((f) => f.typed)}::text[],
        ${each((f) => f.unit)}::text[], ${each((f) => f.value)}::float8[])`);
  // With the rows, or not at all: from here it goes on.
  await tx
    .update(transfer)
    .set({ found: sql`${transfer.found} || ${JSON.stringify({ line: last })}::jsonb`, aliveAt: new Date() })
    .where(and(eq(transfer.workshopId, workshopId), eq(transfer.id, id)));
}

import { and, eq, inArray, sql } from "drizzle-orm";
import {
  type Plan,
  type ColumnPlan,
  TARGETS,
  columnOf,
  guessEncoding,
  guessPlan,
  guessSeparator,
  possibleOrders,
  readerOf,
  targetOf,
  tellingDay,
} from "../../core/intake";
import { dayIn } from "../../core/day";
import { baseUnit, formatQuantity } from "../../core/quantity";
import { serialsOf } from "../../db/queries/serials";
import { fileShape, transfer } from "../../db/schema";
import type { SignedIn } from "../auth";
import { aside } from "../aside/threads";
import { database } from "../database";
import { moment } from "../moment";
import { need } from "../permissions";
import { sha256 } from "../proof/keys";
import { Refused } from "../refused";
import { inTransaction, oneByOne } from "../transaction";
import { MOST_BYTES, fileOf, startOf } from "./files";
import { announce } from "./queue";
import { isRecords } from "./records/unpack";
import type { FileRow } from "./rows";

/** A table has arrived: what it most likely is, and how its first rows would be stored. */

/** Of a file, so much is looked at for guessing its form, bytes; and so many rows for its columns. */
const START = 64 * 1024;
const LOOKED_AT = 2000;
const PREVIEWED = 8;

/** A zip too, but none of records. */
const WORKBOOK = /\.(xls[xmb]?|ods|numbers)$/i;
const AS_CSV = "This is not a table as text. Save it as CSV in the spreadsheet, then choose that file.";

/** What of a plan is remembered, by the heads of a file. */
const shapeOf = (columns: readonly ColumnPlan[]) => sha256(columns.map((c) => c.head.toLowerCase()).join("\u0000"));

/** Takes a file that was kept under this id into the workshop’s transfers, with the guess of how it is to be understood. */
export async function takeIn(
  by: SignedIn,
  id: string,
  { name, bytes }: { name: string; bytes: number },
): Promise<void> {
  need(by, "records");
  const { id: workshopId, timeZone } = by.workshop;
  const path = fileOf(id);
  const start = await startOf(path, START);
  if (WORKBOOK.test(name)) throw new Refused(AS_CSV, "file");
  if (isRecords(start)) return takeRecordsIn(by, id, { name, bytes });
  if (isBinary(start)) throw new Refused(AS_CSV, "file");
  const encoding = guessEncoding(start);
  const separator = guessSeparator(new TextDecoder(encoding).decode(start));
  const rows = await aside({ kind: "file", path, form: { encoding, separator }, count: LOOKED_AT }, { field: "file" });
  if (rows.length === 0) throw new Refused("The file has no rows.", "file");
  const guessed = guessPlan(
    rows.map((r) => r.cells),
    { encoding, separator },
    dayIn(timeZone, moment().getTime()),
  );
  const plan = await asBefore(workshopId, guessed);
  await keepIn(by, {
    ...{ id, way: "table-in", about: name.slice(0, 200) || "table", state: "asked", total: bytes },
    ...{ said: "Say what its columns are.", plan: plan as unknown as Record<string, unknown> },
  });
}

/** Of one workshop on their way in: files, and bytes of all of them. Our choice: one after the other is soon done. */
const MOST_IN = 10;
const MOST_BYTES_IN = 4 * MOST_BYTES;

/** @throws Refused where so much of the workshop’s is on its way in that more would fill the disk for all */
async function keepIn(
  by: SignedIn,
  row: Omit<typeof transfer.$inferInsert, "workshopId" | "by" | "at"> & { total: number },
): Promise<void> {
  const { id: workshopId } = by.workshop;
  await inTransaction(async (tx) => {
    await oneByOne(tx, `imports of ${workshopId}`);
    const [open] = await tx
      .select({ files: sql<number>`count(*)::int`, bytes: sql<string>`coalesce(sum(${transfer.total}), 0)` })
      .from(transfer)
      .where(
        and(
          eq(transfer.workshopId, workshopId),
          inArray(transfer.way, ["table-in", "records-in"]),
          inArray(transfer.state, ["asked", "waiting", "running", "stopping"]),
        ),
      );
    if (open!.files >= MOST_IN || Number(open!.bytes) + row.total > MOST_BYTES_IN)
      throw new Refused("Several files are on their way in already. Finish or cancel one first.", "file");
    await tx
      .insert(transfer)
      .values({ ...row, workshopId, by: by.id, at: moment() })
      .onConflictDoNothing();
  });
}

/** Records as JSON are looked through at once: there is nothing to ask before. */
async function takeRecordsIn(
  by: SignedIn,
  id: string,
  { name, bytes }: { name: string; bytes: number },
): Promise<void> {
  await keepIn(by, {
    ...{ id, way: "records-in", about: name.slice(0, 200) || "records", state: "waiting", total: bytes },
    ...{ said: "Waiting for its turn", plan: { next: "check" } },
  });
  await announce({ workshopId: by.workshop.id, transferId: id });
}

/** Zip archives, workbooks and pictures are no text, whatever encoding. */
function isBinary(start: Uint8Array): boolean {
  const [a, b, c, d] = start;
  return (
    (a === 0x50 && b === 0x4b) ||
    (a === 0xd0 && b === 0xcf) ||
    (a === 0x89 && b === 0x50) ||
    (a === 0x25 && b === 0x50 && c === 0x44 && d === 0x46)
  );
}

/** A file with the same heads is understood as the last one was; the order of its days is asked anew. */
async function asBefore(workshopId: string, plan: Plan): Promise<Plan> {
  if (!plan.headed) return plan;
  const [known] = await database()
    .select()
    .from(fileShape)
    .where(and(eq(fileShape.workshopId, workshopId), eq(fileShape.shape, shapeOf(plan.columns))));
  if (!known) return plan;
  const { columns, decimals } = known.plan as unknown as Pick<Plan, "columns" | "decimals">;
  return { ...plan, columns, decimals };
}

/** Of a plan, how its file is to be read. */
const formOf = ({ encoding, separator }: Plan) => ({ encoding, separator });

export async function rememberShape(workshopId: string, { headed, columns, decimals }: Plan): Promise<void> {
  if (!headed) return;
  const kept = { plan: { columns, decimals } as Record<string, unknown>, at: moment() };
  await inTransaction((tx) =>
    tx
      .insert(fileShape)
      .values({ workshopId, shape: shapeOf(columns), ...kept })
      .onConflictDoUpdate({ target: [fileShape.workshopId, fileShape.shape], set: kept }),
  );
}

export interface Preview {
  /** Cells as they stand in the file, with their line. */
  readonly raw: readonly FileRow[];
  /** As they would be stored; what is wrong with a row in words. */
  readonly stored: readonly {
    readonly line: number;
    readonly row: readonly string[] | null;
    readonly wrong: readonly string[];
  }[];
  /** Heads of what is stored. */
  readonly heads: readonly string[];
  /** Orders its days can be read in, and one of them that tells them apart; null where there is nothing to ask. */
  readonly days: { readonly orders: readonly string[]; readonly typed: string; readonly column: number } | null;
}

/** The first rows as they would be stored. @throws Refused when the file can’t be read so */
export async function previewOf(workshopId: string, id: string, plan: Plan, today: string): Promise<Preview> {
  const rows = await aside(
    { kind: "file", path: fileOf(id), form: formOf(plan), count: LOOKED_AT },
    { field: "separator" },
  );
  const body = plan.headed ? rows.slice(1) : rows;
  const day = plan.columns.findIndex((c) => c.target === "day");
  const typed =
    day < 0
      ? []
      : columnOf(
          body.map((r) => r.cells),
          day,
        );
  const orders = possibleOrders(typed, today);
  const telling = orders.length > 1 ? tellingDay(typed, orders, today) : null;
  const figures = Object.entries(TARGETS).filter(
    ([t, of]) => of.form === "figure" && plan.columns.some((c) => c.target === t),
  );
  const heads = ["Day", "Serial", ...figures.map(([, of]) => of.title), "By", "Work", "Note"];
  const machines = await serialsOf(database(), workshopId);
  const order = plan.dayOrder ?? (orders.length === 1 ? orders[0]! : null);
  const reader = order ? readerOf({ ...plan, dayOrder: order }, (s) => machines.get(s)?.id, today) : null;
  const names = new Map([...machines.values()].map((m) => [m.id, m.serial]));
  return {
    raw: rows.slice(0, PREVIEWED),
    heads,
    days: telling === null ? null : { orders, typed: telling, column: day },
    stored: !reader
      ? []
      : body.slice(0, PREVIEWED).map(({ line, cells }) => {
          const read = reader.read(cells);
          if (!read.ok) return { line, row: null, wrong: read.errors.map((e) => `${e.column}: ${e.reason}. ${e.fix}`) };
          const { row } = read;
          const values = figures.map(([t]) => {
            const f = row.figures.find((x) => targetOf(x) === t);
            return f ? formatQuantity(f.value, 0.01, baseUnit(f.dimension)) : "";
          });
          return {
            line,
            wrong: [],
            row: [row.doneOn, names.get(row.machineId) ?? "", ...values, row.doneBy, row.work, row.note],
          };
        }),
  };
}

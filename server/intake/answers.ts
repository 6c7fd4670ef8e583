import { and, eq, inArray } from "drizzle-orm";
import {
  type DayOrder,
  type Decimals,
  type Encoding,
  NEEDED,
  NOT_TAKEN,
  type Plan,
  type Separator,
  TARGETS,
  TO_NOTE,
  guessPlan,
} from "../../core/intake";
import { dayIn } from "../../core/day";
import { baseUnit, unitsOf } from "../../core/quantity";
import { serialsOf } from "../../db/queries/serials";
import { transfer } from "../../db/schema";
import type { SignedIn } from "../auth";
import { aside } from "../aside/threads";
import { database } from "../database";
import { moment } from "../moment";
import { type Transfer, transferOf } from "../open/transfers";
import { need } from "../permissions";
import { Refused } from "../refused";
import { inTransaction } from "../transaction";
import { rememberShape } from "./arrive";
import { fileOf, forgetFiles } from "./files";
import { announce } from "./queue";
import { recordsFoundOf, recordsPlanOf } from "./records/work";
import { foundOf, planOf } from "./work";

/** What whoever brings a table answers, and what is done then. Each answer is one change of its state: a second of the same finds it done. */

export interface Answers {
  readonly encoding: Encoding;
  readonly separator: Separator;
  readonly headed: boolean;
  readonly decimals: Decimals;
  readonly dayOrder: DayOrder | null;
  /** By number of the column, from 0: what it is, and the unit of bare numbers. */
  readonly targets: Readonly<Record<number, string>>;
  readonly units: Readonly<Record<number, string>>;
  /** Serials of the list that no machine has, by number, and the serial of the machine that each means. */
  readonly serials: Readonly<Record<number, string>>;
}

const GUESSED_FROM = 500;

async function asked(by: SignedIn, id: string, way: Transfer["way"]): Promise<Transfer> {
  need(by, "records");
  const row = await transferOf(by.workshop.id, id);
  if (row?.way !== way) throw new Refused("There is no such import.");
  if (row.state !== "asked") throw new Refused("This import has gone on meanwhile. Nothing changed.");
  return row;
}

/** The plan that somebody’s answers make; a file that is to be read otherwise is guessed at anew. */
async function planFrom(by: SignedIn, row: Transfer, answers: Answers): Promise<Plan> {
  const old = planOf(row);
  const { encoding, separator, headed, decimals, dayOrder } = answers;
  const form = { encoding, separator };
  if (encoding !== old.encoding || separator !== old.separator) {
    const rows = await aside({ kind: "file", path: fileOf(row.id), form, count: GUESSED_FROM }, { field: "separator" });
    return guessPlan(
      rows.map((r) => r.cells),
      form,
      dayIn(by.workshop.timeZone, moment().getTime()),
    );
  }
  const columns = old.columns.map((column, i) => {
    const target = answers.targets[i] ?? column.target;
    const of = TARGETS[target];
    if (!of && target !== NOT_TAKEN && target !== TO_NOTE)
      throw new Refused("Choose one of those shown.", `target.c${i}`);
    return { ...column, target, unit: of?.form === "figure" ? unitFor(of.dimension, answers.units[i]) : "" };
  });
  for (const [i, { target }] of columns.entries())
    if (TARGETS[target] && columns.findIndex((c) => c.target === target) !== i)
      throw new Refused("Another column is this already.", `target.c${i}`);
  return {
    ...form,
    headed,
    decimals,
    dayOrder,
    columns,
    serials: { ...old.serials, ...(await machinesMeant(by, row, answers)) },
  };
}

const unitFor = (dimension: Parameters<typeof unitsOf>[0], wanted: string | undefined) =>
  unitsOf(dimension).find((u) => u.id === wanted)?.id ?? baseUnit(dimension).id;

async function machinesMeant(by: SignedIn, row: Transfer, { serials }: Answers): Promise<Record<string, string>> {
  const given = Object.entries(serials).filter(([, typed]) => typed.trim() !== "");
  if (given.length === 0) return {};
  const unknown = foundOf(row).serials ?? [];
  const machines = await serialsOf(database(), by.workshop.id);
  return Object.fromEntries(
    given.map(([i, typed]) => {
      const serial = unknown[Number(i)]?.[0];
      const machine = machines.get(typed.trim().toLowerCase());
      if (!machine || serial === undefined)
        throw new Refused("No machine here has this serial either.", `serial.s${i}`);
      return [serial.toLowerCase(), machine.id];
    }),
  );
}

async function change(row: Transfer, from: readonly Transfer["state"][], to: Partial<Transfer>): Promise<void> {
  const done = await inTransaction((tx) =>
    tx
      .update(transfer)
      .set({ ...to, aliveAt: new Date() })
      .where(and(eq(transfer.workshopId, row.workshopId), eq(transfer.id, row.id), inArray(transfer.state, [...from])))
      .returning({ id: transfer.id }),
  );
  if (done.length === 0) throw new Refused("This import has gone on meanwhile. Nothing changed.");
}

/** Keeps the answers: what was found by others is of no account any more. */
export async function savePlan(by: SignedIn, id: string, answers: Answers): Promise<void> {
  const row = await asked(by, id, "table-in");
  const plan = await planFrom(by, row, answers);
  await change(row, ["asked"], {
    plan: plan as unknown as Record<string, unknown>,
    found: {},
    said: "Say what its columns are.",
  });
}

/** Looks through the whole file; nothing is stored. */
export async function startCheck(by: SignedIn, id: string, answers: Answers): Promise<void> {
  const row = await asked(by, id, "table-in");
  const plan = await planFrom(by, row, answers);
  for (const target of NEEDED)
    if (!plan.columns.some((c) => c.target === target))
      throw new Refused(`Choose which column is “${TARGETS[target]!.title}”: a visit is not without it.`);
  if (!plan.dayOrder) throw new Refused("Say in which order its days are written.", "dayOrder");
  await rememberShape(by.workshop.id, plan);
  await go(row, { ...plan, next: "check" }, {});
}

/** Stores what was checked. @param leaveBad rows that are wrong are left out; else none may be */
export async function startStore(by: SignedIn, id: string, leaveBad: boolean): Promise<void> {
  const row = await asked(by, id, "table-in");
  const found = foundOf(row);
  if (found.good === undefined) throw new Refused("Check all rows first.");
  if (found.bad! > 0 && !leaveBad) throw new Refused(`${found.bad} rows are wrong still. Nothing was stored.`);
  await go(row, { ...planOf(row), next: "store" }, row.found);
}

async function go(row: Transfer, plan: object, found: Record<string, unknown>): Promise<void> {
  await change(row, ["asked"], {
    ...{ state: "waiting", said: "Waiting for its turn", done: 0, found, plan: plan as Record<string, unknown> },
  });
  await announce({ workshopId: row.workshopId, transferId: row.id });
}

/** What was imported counts no more. It can be imported again. */
export async function withdrawImport(by: SignedIn, id: string): Promise<void> {
  need(by, "records");
  await inTransaction((tx) =>
    tx
      .update(transfer)
      .set({ state: "withdrawn", said: "Withdrawn: nothing of it counts any more." })
      .where(and(eq(transfer.workshopId, by.workshop.id), eq(transfer.id, id), eq(transfer.state, "done"))),
  );
}

/** Given up before anything was stored. */
export async function giveUp(by: SignedIn, id: string): Promise<void> {
  need(by, "records");
  const row = await transferOf(by.workshop.id, id);
  if (!row) throw new Refused("There is no such import.");
  await change(row, ["asked"], { state: "stopped", said: "Cancelled. Nothing was stored." });
  await forgetFiles(id);
}

export interface RecordChoices {
  /** By number in the list of what differs: whose is right. */
  readonly choice: Readonly<Record<number, "ours" | "theirs">>;
  /** Numbers in the list of doubles that are one thing. */
  readonly same: readonly number[];
}

/** Keeps what was chosen. Where things were said to be the same the file is looked through again: with that, more may be. */
export async function chooseRecords(by: SignedIn, id: string, { choice, same }: RecordChoices): Promise<void> {
  const row = await asked(by, id, "records-in");
  const plan = recordsPlanOf(row);
  const { differing = [], doubles = [] } = recordsFoundOf(row);
  const chosen = { ...plan.choices.chosen };
  for (const [i, whose] of Object.entries(choice)) {
    const of = differing[Number(i)];
    if (of) chosen[`${of.section} ${of.id}`] = whose;
  }
  const meant = Object.fromEntries(same.flatMap((i) => (doubles[i] ? [[doubles[i].theirs, doubles[i].ours]] : [])));
  const next = { ...plan, choices: { chosen }, naming: { ...plan.naming, same: { ...plan.naming.same, ...meant } } };
  if (Object.keys(meant).length > 0) await go(row, { ...next, next: "check" }, {});
  else await change(row, ["asked"], { plan: next as unknown as Record<string, unknown> });
}

/** Stores records that were looked through, once everything is said that had to be. */
export async function storeRecords(by: SignedIn, id: string): Promise<void> {
  const row = await asked(by, id, "records-in");
  const plan = recordsPlanOf(row);
  const { misfits = [], differing = [], doubles = [], blocked = [] } = recordsFoundOf(row);
  if (misfits.length > 0) throw new Refused("Rows of the file are wrong. Nothing was stored.");
  if (blocked.length > 0) throw new Refused(blocked[0]!);
  if (doubles.length > 0)
    throw new Refused("Say of each thing with a name that is here already whether it is the same.");
  if (differing.some((d) => !plan.choices.chosen[`${d.section} ${d.id}`]))
    throw new Refused("Choose whose is right, of each that differs.");
  await go(row, { ...plan, next: "store" }, row.found);
}

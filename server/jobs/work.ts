import { and, eq, inArray } from "drizzle-orm";
import { PATTERNS } from "../../core/diagnose";
import { JOB_TYPES, sheetFor } from "../../core/sheet";
import type { SchoolsOf } from "../../core/school";
import type { Transaction } from "../../db/client";
import { entry, instrument, job, tick } from "../../db/schema";
import { startWarmUp } from "./clocks";
import { instrumentFor } from "./readings";
import { type Target, inJob, keys } from "./record";
import { Refused } from "../refused";
import { questionOf, skipTask, standOf } from "./stand";
import { taskOf } from "./task-of";
import { toleranceOf } from "./tolerance";
import { type EntryInput, type InstrumentRow, rowOf, valueOf } from "./values";

/** Writes of the sheet's tasks: ticks, figures, choices, words, rows, evidence, and stations left out. */

/** Ticks a task or confirms a hard stop. No station is passed unseen: what must come before it has been done. */
export function addTick(target: Target, input: { key: string }) {
  return inJob(target, "tick", input, async (tx, row) => {
    if (row.ticks.some((t) => t.key === input.key)) return;
    const { task, stand } = taskOf(row, input.key);
    if (task.kind !== "tick" && task.kind !== "heat") throw new Refused("That is not ticked off.");
    await tx
      .insert(tick)
      .values({ ...keys(target), ...input })
      .onConflictDoNothing();
    if (task.kind === "heat") await startWarmUp(tx, row, stand, target, task.levels);
  });
}

/** Records what was typed or chosen for a task. */
export function addEntry(target: Target, input: EntryInput) {
  return inJob(target, "entry", input, async (tx, row) => {
    const { task, stand } = taskOf(row, input.task);
    const read = input.instrumentId
      ? await instrumentFor(tx, target.by.workshop.id, input.instrumentId, row.machine.id)
      : null;
    const made = valueOf(task, input, stand.records, read);
    await tx
      .insert(entry)
      .values({ ...keys(target), task: task.id, typed: input.typed.slice(0, 200), unit: input.unit, value: made });
  });
}

export interface RowInput {
  task: string;
  /** What was typed, by column. */
  cells: Record<string, string>;
  /** Id of what it was read with, by column. */
  instruments: Record<string, string>;
  unit: string;
}

/** A row of a table: kept whole or not at all. */
export function addRow(target: Target, input: RowInput) {
  return inJob(target, "row", input, async (tx, row) => {
    const { task } = taskOf(row, input.task);
    if (task.kind !== "table") throw new Refused("That takes no rows.");
    const read = await instrumentsOf(tx, target.by.workshop.id, row.machine.id, input.instruments);
    const value = rowOf(task.columns, input.cells, read, input.unit);
    const typed = task.columns.map((c) => input.cells[c.name] ?? "").join(" | ");
    await tx
      .insert(entry)
      .values({ ...keys(target), task: task.id, typed: typed.slice(0, 200), unit: input.unit, value });
  });
}

async function instrumentsOf(
  tx: Transaction,
  workshopId: string,
  machineId: string,
  chosen: Record<string, string>,
): Promise<Map<string, InstrumentRow>> {
  const ids = [...new Set(Object.values(chosen).filter(Boolean))];
  if (ids.length === 0) return new Map();
  const rows = await tx
    .select()
    .from(instrument)
    .where(and(inArray(instrument.id, ids), eq(instrument.workshopId, workshopId)));
  return new Map(
    Object.entries(chosen).flatMap(([column, id]) => {
      if (!id) return [];
      const found = rows.find((r) => r.id === id);
      if (!found || (found.machineId && found.machineId !== machineId))
        throw new Refused("Choose an instrument from the kit or the machine’s own.", `cell.${column}`);
      return [[column, found] as const];
    }),
  );
}

/** A row taken out again, with the reason: it stays on record and counts no more. */
export function strike(target: Target, input: { entryId: string; reason: string }) {
  return inJob(target, "strike", input, async (tx, row) => {
    const old = row.entries.find((e) => e.id === input.entryId);
    if (!old || (old.value.form !== "row" && old.value.form !== "evidence"))
      throw new Refused("That row is not on this sheet.");
    if (row.entries.some((e) => e.supersedes === old.id)) throw new Refused("That row was taken out already.");
    await tx.insert(entry).values({
      ...keys(target),
      task: old.task,
      supersedes: old.id,
      value: { form: "struck", reason: input.reason },
    });
  });
}

/** What a check showed, towards a cause. The newest outcome of a check counts. */
export function addEvidence(target: Target, input: { task: string; check: string; outcome: string }) {
  return inJob(target, "evidence", input, async (tx, row) => {
    const { task } = taskOf(row, input.task);
    if (task.kind !== "diagnosis") throw new Refused("No cause is looked for there.");
    const check = PATTERNS[task.pattern].checks.find((c) => c.id === input.check);
    if (!check?.outcomes.some((o) => o.id === input.outcome)) throw new Refused("Choose what the check showed.");
    const { check: of, outcome } = input;
    await tx.insert(entry).values({ ...keys(target), task: task.id, value: { form: "evidence", check: of, outcome } });
  });
}

/** Leaves a station out, with the reason that the report will show; an empty reason takes it up again. */
export function skipStation(target: Target, input: { station: string; reason: string }) {
  return inJob(target, "skip", input, async (tx, row) => {
    const found = standOf(row)
      .at(Date.now())
      .find((p) => p.station.id === input.station);
    if (!found) throw new Refused("That station is not on this sheet.");
    if (!found.station.skippable)
      throw new Refused("This station can’t be left out: what follows rests on it.", "reason");
    if (found.state === "done") throw new Refused("That station is done already.");
    await tx
      .insert(entry)
      .values({ ...keys(target), task: skipTask(input.station), value: { form: "text", text: input.reason } });
  });
}

/** Chooses schools for this job alone. The tolerance follows the school of the valve. */
export function chooseSchools(target: Target, input: { schools: SchoolsOf }) {
  return inJob(target, "schools", input, async (tx, row) => {
    await tx
      .update(job)
      .set({ schools: input.schools, tolerance: toleranceOf(input.schools.opv, row.spec?.lines ?? []) })
      .where(eq(job.id, row.id));
  });
}

/** The machine is of another kind than the sheet was made for: the sheet is made anew, all records stay. */
export function followKind(target: Target) {
  return inJob(target, "kind", {}, async (tx, row) => {
    const kind = row.machine.model.kind;
    if (kind === row.kind) return;
    try {
      sheetFor(questionOf({ ...row, kind }));
    } catch {
      throw new Refused(
        `A ${JOB_TYPES[row.type].title.toLowerCase()} does not apply to the new kind. Finish or sign this sheet as it is.`,
      );
    }
    await tx.update(job).set({ kind }).where(eq(job.id, row.id));
  });
}

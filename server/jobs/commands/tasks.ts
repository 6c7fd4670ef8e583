import { dayIn } from "../../../core/day";
import { PATTERNS } from "../../../core/diagnose";
import { type Job, skipTask } from "../../../core/job";
import { type TaskValue, instrumentsIn, readTask, rowOf } from "../../../core/sheet";
import type { Transaction } from "../../../db/client";
import { entry, entryInstrument, tick } from "../../../db/schema";
import { moment } from "../../moment";
import { Refused } from "../../refused";
import { startWarmUp } from "./clocks";
import { type Target, inJob, keys } from "./in-job";
import { instrumentFor, instrumentsFor } from "./instruments";
import { taskOf } from "./task-of";

/** Writes of the sheet's tasks: ticks, figures, choices, words, rows, evidence, and stations left out. */

/** Ticks a task or confirms a hard stop. No station is passed unseen: what must come before it has been done. */
export function addTick(target: Target, input: { key: string }) {
  return inJob(target, "tick", input, async (tx, job, standing) => {
    if (job.ticks.includes(input.key)) return;
    const { task } = taskOf(standing(), input.key);
    if (task.kind !== "tick" && task.kind !== "heat") throw new Refused("That is not ticked off.");
    await tx
      .insert(tick)
      .values({ ...keys(target), ...input })
      .onConflictDoNothing();
    if (task.kind === "heat") await startWarmUp(tx, standing(), target, task.levels);
  });
}

export interface EntryInput {
  task: string;
  typed: string;
  unit: string;
  sure: boolean;
  capacity?: string;
  perDay?: string;
  months?: string;
  /** What a figure was read with. */
  instrumentId?: string | undefined;
}

/** Records what was typed or chosen for a task. */
export function addEntry(target: Target, { instrumentId, ...input }: EntryInput) {
  return inJob(target, "entry", { instrumentId, ...input }, async (tx, job, standing) => {
    const { task } = taskOf(standing(), input.task);
    const { records } = standing();
    const instrument = instrumentId ? await instrumentFor(tx, placeOf(target, job.machine.id), instrumentId) : null;
    const value = readTask(task, { ...input, instrument, records, today: today(job) });
    await keepEntry(tx, target, { task: task.id, typed: input.typed, unit: input.unit, value });
  });
}

/** An entry, and what it was read with. */
async function keepEntry(
  tx: Transaction,
  target: Target,
  { typed, value, ...said }: { task: string; typed: string; unit: string; value: TaskValue },
): Promise<void> {
  await tx.insert(entry).values({ ...keys(target), ...said, typed: typed.slice(0, 200), value });
  const read = instrumentsIn(value);
  if (read.length === 0) return;
  const { id: entryId, workshopId, jobId } = keys(target);
  const { task } = said;
  await tx.insert(entryInstrument).values(read.map((r) => ({ workshopId, jobId, task, entryId, ...r })));
}

const today = ({ zone }: Job) => dayIn(zone, moment().getTime());

const placeOf = ({ by }: Target, machineId: string) => ({ workshopId: by.workshop.id, machineId });

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
  return inJob(target, "row", input, async (tx, job, standing) => {
    const { task } = taskOf(standing(), input.task);
    if (task.kind !== "table") throw new Refused("That takes no rows.");
    const chosen = Object.entries(input.instruments).filter(([, id]) => id);
    const read = await instrumentsFor(
      tx,
      placeOf(target, job.machine.id),
      Object.fromEntries(chosen.map(([column, id]) => [`cell.${column}`, id])),
    );
    const value = rowOf(task.columns, {
      cells: input.cells,
      instruments: new Map(chosen.map(([column]) => [column, read.get(`cell.${column}`)!])),
      pressureUnit: input.unit,
      today: today(job),
    });
    const typed = task.columns.map((c) => input.cells[c.name] ?? "").join(" | ");
    await keepEntry(tx, target, { task: task.id, typed, unit: input.unit, value });
  });
}

/** A row taken out again, with the reason: it stays on record and counts no more. */
export function strike(target: Target, input: { entryId: string; reason: string }) {
  return inJob(target, "strike", input, async (tx, job) => {
    const old = job.entries.find((e) => e.id === input.entryId);
    if (!old || (old.value.form !== "row" && old.value.form !== "evidence"))
      throw new Refused("That row is not on this sheet.");
    if (job.entries.some((e) => e.supersedes === old.id)) throw new Refused("That row was taken out already.");
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
  return inJob(target, "evidence", input, async (tx, _, standing) => {
    const { task } = taskOf(standing(), input.task);
    if (task.kind !== "diagnosis") throw new Refused("No cause is looked for there.");
    const check = PATTERNS[task.pattern].checks.find((c) => c.id === input.check);
    if (!check?.outcomes.some((o) => o.id === input.outcome)) throw new Refused("Choose what the check showed.");
    const { check: of, outcome } = input;
    await tx.insert(entry).values({ ...keys(target), task: task.id, value: { form: "evidence", check: of, outcome } });
  });
}

/** Leaves a station out, with the reason that the report will show; an empty reason takes it up again. */
export function skipStation(target: Target, input: { station: string; reason: string }) {
  return inJob(target, "skip", input, async (tx, _, standing) => {
    const found = standing()
      .at(moment().getTime())
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

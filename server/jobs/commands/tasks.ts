import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { dayIn } from "../../../core/day";
import { PATTERNS } from "../../../core/diagnose";
import {
  type Job,
  type Standing,
  excludedIn,
  skipTask,
  standingEntries,
  standingTicks,
  standingTimers,
} from "../../../core/job";
import { pressureCheck } from "../../../core/pressure";
import { STOP_TASK, type Task, type TaskValue, Unfit, instrumentsIn, readTask, rowOf } from "../../../core/sheet";
import type { Transaction } from "../../../db/client";
import { entry, entryInstrument, model, tick } from "../../../db/schema";
import { moment } from "../../moment";
import { Refused } from "../../refused";
import { runOn, startWarmUp, stopWarmUp } from "./clocks";
import { type Target, inJob, keys } from "./in-job";
import { instrumentFor, instrumentsFor } from "./instruments";
import { taskOf } from "./task-of";
import { takeParts } from "./work";

/** Writes of the sheet's tasks: ticks, figures, choices, words, rows, evidence, and stations left out. */

/** Ticks a task or confirms a hard stop. No step is passed unseen: what must come before it has been done. */
export function addTick(target: Target, input: { key: string }) {
  return inJob(target, "tick", input, async (tx, job, standing) => {
    const { records } = standing();
    if (records.values.has(input.key)) return;
    const { task, station } = taskOf(standing(), input.key);
    if (task.kind !== "tick" && task.kind !== "heat")
      throw new Refused("This task is not a tick. Load the page again.");
    if (target.by.way === "program" && station.hardStop?.confirm === task.label)
      throw new Refused("A hard stop is confirmed by a person at the machine, never by a program. Nothing changed.");
    // The key of a tick is unique: ticked again after it was taken back, it is an entry.
    if (job.ticks.some((t) => t.key === input.key))
      await tx.insert(entry).values({ ...keys(target), task: task.id, value: { form: "tick" } });
    else await tx.insert(tick).values({ ...keys(target), ...input });
    if (task.kind === "tick" && task.releases) await strikeAll(tx, target, job, task.releases, task.label);
    if (task.kind === "heat") await startWarmUp(tx, standing(), target, task.levels);
  });
}

/** Takes back what stands of a tick, for another that excludes it. */
async function strikeAll(tx: Transaction, target: Target, job: Job, key: string, reason: string): Promise<void> {
  const made = { ...keys(target), task: key };
  for (const { id, key: of } of standingTicks(job))
    if (of === key)
      await tx.insert(entry).values({ ...made, id: randomUUID(), value: { form: "struck", reason, of: id } });
  for (const old of standingEntries(job))
    if (old.task === key)
      await tx
        .insert(entry)
        .values({ ...made, id: randomUUID(), supersedes: old.id, value: { form: "struck", reason } });
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
  /** The line that this one corrects. */
  supersedes?: string | null;
}

/** Records what was typed or chosen for a task. */
export function addEntry(target: Target, input: EntryInput) {
  return inJob(target, "entry", input, (tx, job, standing) => writeEntry(tx, target, job, standing(), input));
}

/** Values saved together: all of them or none, each refused at its own field. */
export function addEntries(target: Target, { entries }: { entries: EntryInput[] }) {
  return inJob(target, "entries", { entries }, async (tx, job, standing) => {
    if (entries.length === 0) throw new Refused("Nothing is typed yet. Type one value at least.");
    for (const [i, input] of entries.entries()) {
      const own = i === 0 ? target : { ...target, commandId: randomUUID() };
      await writeEntry(tx, own, job, standing(), input).catch((error: unknown) => {
        if (!(error instanceof Unfit) && !(error instanceof Refused)) throw error;
        const at = error.field === "sure" ? "sure" : "typed";
        throw new Refused(error.message, `${at}.${input.task.replaceAll(".", "_")}`);
      });
    }
  });
}

async function writeEntry(
  tx: Transaction,
  target: Target,
  job: Job,
  standing: Standing,
  { instrumentId, ...input }: EntryInput,
): Promise<void> {
  const { task } = taskOf(standing, input.task);
  const { records } = standing;
  const instrument = instrumentId ? await instrumentFor(tx, placeOf(target, job.machine.id), instrumentId) : null;
  const value = readTask(task, { ...input, instrument, records, today: today(job) });
  await keepEntry(tx, target, {
    task: task.id,
    typed: input.typed,
    unit: input.unit,
    value,
    supersedes: corrected(job, task, input.supersedes ?? null),
  });
  if (task.id === STOP_TASK && value.form === "choice") await foundOutOfStop(tx, target, job, value.choice);
}

/** What a dose stop of this model does is found out once: the next machine of the model is not asked. */
async function foundOutOfStop(tx: Transaction, { by }: Target, { machine }: Job, gives: string): Promise<void> {
  await tx
    .update(model)
    .set({ card: sql`${model.card} || ${JSON.stringify({ stopThreads: gives })}::jsonb` })
    .where(and(eq(model.workshopId, by.workshop.id), eq(model.id, machine.modelId)));
}

/** The line that an entry replaces: the one named; an answer or words that there is one of replace what stood before. */
function corrected(job: Job, task: Task, supersedes: string | null): string | null {
  const standing = standingEntries(job).filter((e) => e.task === task.id && e.value.form !== "struck");
  if (supersedes === null) return task.kind === "choice" || task.kind === "text" ? (standing.at(-1)?.id ?? null) : null;
  if (!standing.some((e) => e.id === supersedes))
    throw new Refused("That line was corrected or taken back already. Nothing changed: load the page again.");
  return supersedes;
}

/** An entry, and what it was read with. */
async function keepEntry(
  tx: Transaction,
  target: Target,
  {
    typed,
    value,
    ...said
  }: { task: string; typed: string; unit: string; value: TaskValue; supersedes?: string | null },
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
    if (task.kind !== "table") throw new Refused("This task takes no rows. Load the page again.");
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

/** A line, a tick or a timer taken back: it stays on record, struck through, and counts no more. */
export function strike(target: Target, input: { entryId: string; reason: string }) {
  return inJob(target, "strike", input, async (tx, job, standing) => {
    const { entryId: id, reason } = input;
    const made = keys(target);
    const line = job.entries.find((e) => e.id === id);
    if (line && line.value.form !== "struck") {
      if (!standingEntries(job).includes(line))
        throw new Refused("That line was corrected or taken back already. Nothing changed.");
      if (line.value.form === "work") await takeParts(tx, target, { before: line.value, sure: true });
      await tx
        .insert(entry)
        .values({ ...made, task: line.task, supersedes: line.id, value: { form: "struck", reason } });
      return;
    }
    if (await excluded(tx, job, made, { id, reason })) return;
    const ticked = job.ticks.find((t) => t.id === id);
    const timed = job.timers.find((t) => t.id === id && t.endedAt !== null);
    const of = ticked ?? timed;
    if (!of) throw new Refused("That line is not on this sheet. Load the page again.");
    if (!standingTicks(job).some((t) => t.id === id) && !standingTimers(job).some((t) => t.id === id))
      throw new Refused("That was taken back already. Nothing changed.");
    const task = ticked ? ticked.key : timed!.task;
    await tx.insert(entry).values({ ...made, task, value: { form: "struck", reason, of: id } });
    if (ticked) await stopWarmUp(tx, standing(), target, task);
    else await runOn(tx, standing(), target, timed!);
  });
}

/** A reading excluded from what is made of the others, or counted again: both stay on record. False where the id is none of theirs. */
async function excluded(
  tx: Transaction,
  job: Job,
  made: ReturnType<typeof keys>,
  { id, reason }: { id: string; reason: string },
): Promise<boolean> {
  const all = excludedIn(job);
  const read = job.readings.find((r) => r.id === id);
  if (!read) {
    const by = job.readings.map((r) => all.get(r.id)).find((e) => e?.id === id);
    if (!by) return false;
    const value = { form: "struck" as const, reason: reason || "counted again" };
    await tx.insert(entry).values({ ...made, task: by.task, supersedes: by.id, value });
    return true;
  }
  if (all.has(id) || job.readings.some((r) => r.supersedes === id))
    throw new Refused("That reading was corrected or excluded already. Nothing changed.");
  if (reason.length < 3) throw new Refused("Say why it is excluded.", "reason");
  await tx.insert(entry).values({ ...made, task: read.loop, value: { form: "struck", reason, of: id } });
  return true;
}

/** What a check showed, towards a cause. The newest outcome of a check counts. */
export function addEvidence(target: Target, input: { task: string; check: string; outcome: string; zero: boolean }) {
  return inJob(target, "evidence", input, async (tx, _, standing) => {
    const { task } = taskOf(standing(), input.task);
    if (task.kind !== "diagnosis") throw new Refused("This task looks for no cause. Load the page again.");
    const check = PATTERNS[task.pattern].checks.find((c) => c.id === input.check);
    const screwless = check?.needsScrew && pressureCheck(standing().kind) !== "adjustable";
    if (screwless || !check?.outcomes.some((o) => o.id === input.outcome))
      throw new Refused("Choose what the check showed.");
    const trapped = standing().loops.some((l) => l.loop.trapsPressure && l.log.length > 0);
    if (check.opensGroup && trapped && (!input.zero || target.by.way === "program"))
      throw new Refused(
        "Pressure stands behind the blanked portafilter. Let it out slowly, wait until the gauge reads zero, then turn the handle, and tick the box.",
        "zero",
      );
    const { check: of, outcome } = input;
    await tx.insert(entry).values({ ...keys(target), task: task.id, value: { form: "evidence", check: of, outcome } });
  });
}

/** Skips a step, with the reason that the report will show; an empty reason undoes the skip. */
export function skipStation(target: Target, input: { station: string; reason: string }) {
  return inJob(target, "skip", input, async (tx, _, standing) => {
    const found = standing()
      .at(moment().getTime())
      .find((p) => p.station.id === input.station);
    if (!found) throw new Refused("That step is not on this sheet. Load the page again.");
    if (!found.station.skippable) throw new Refused("This step can’t be skipped: what follows rests on it.", "reason");
    if (found.state === "done") throw new Refused("That step is done already.");
    await tx
      .insert(entry)
      .values({ ...keys(target), task: skipTask(input.station), value: { form: "text", text: input.reason } });
  });
}

import { and, eq, isNull } from "drizzle-orm";
import { type Dimension, formatQuantity, parseQuantity, parseRange, unitById, unitsOf } from "../../core/quantity";
import { JOB_TYPES, type SheetRecords, type Task, type TaskValue, figure, sheetFor, tasksNow } from "../../core/sheet";
import { burstState } from "../../core/startup";
import { WARM_WORDS, predictWarmUp, shortestHeatUp, tooFast } from "../../core/warmup";
import { cartridgeDue, purgeStep } from "../../core/water";
import type { Transaction } from "../../db/client";
import type { SheetRow } from "../../db/queries/jobs";
import { warmUpTimes } from "../../db/queries/warm-up";
import { entry, job, tick, timer } from "../../db/schema";
import type { SchoolsOf } from "../../core/school";
import { Refused, type Target, inJob, keys } from "./record";
import { type Stand, questionOf, skipTask, standOf } from "./stand";
import { toleranceOf } from "./tolerance";

/** Writes of the sheet's tasks: ticks, figures, choices, words, timers, and stations left out. */

/** The task of a station that can be worked on now, or was. */
function taskOf(row: SheetRow, id: string): { task: Task; done: boolean; stand: Stand } {
  const stand = standOf(row);
  for (const { station, state, why } of stand.at(Date.now())) {
    const task = tasksNow(station, stand.records).find((t) => t.id === id);
    if (!task) continue;
    if (state === "blocked") throw new Refused(`Not yet: ${station.title.toLowerCase()}. ${why}`);
    return { task, done: state === "done", stand };
  }
  throw new Refused("That is not on this sheet now. Load the page again.");
}

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

export interface EntryInput {
  task: string;
  typed: string;
  unit: string;
  sure: boolean;
  /** Of a cartridge: litres it treats, litres a day, months. */
  capacity?: string;
  perDay?: string;
  months?: string;
}

/** Records what was typed or chosen for a task. */
export function addEntry(target: Target, input: EntryInput) {
  return inJob(target, "entry", input, async (tx, row) => {
    const { task, stand } = taskOf(row, input.task);
    const made = valueOf(task, input, stand.records);
    await tx
      .insert(entry)
      .values({ ...keys(target), task: task.id, typed: input.typed.slice(0, 200), unit: input.unit, value: made });
  });
}

function valueOf(task: Task, input: EntryInput, records: SheetRecords): TaskValue {
  const typed = input.typed.trim();
  switch (task.kind) {
    case "text":
      if (!typed) throw new Refused("Write it down, even “nothing”.", "typed");
      if (typed.length > 2000) throw new Refused("Keep it under 2000 characters.", "typed");
      return { form: "text", text: typed };
    case "choice":
      if (!task.options.some((o) => o.value === typed)) throw new Refused("Choose one.", "typed");
      return { form: "choice", choice: typed };
    case "hardness":
      return hardnessOf(input);
    case "purge": {
      const litres = quantityOf(input, "volume", "l", [0, 1_000_000], `Type the litres, like 16 L.`) / 1000;
      const before = figure(records, task.id) ?? 0;
      const step = purgeStep(before, litres);
      if (!step.ok) throw new Refused(step.message, "typed");
      return { form: "figure", value: litres };
    }
    case "cartridge":
      return cartridgeOf(input);
    case "figure":
      return { form: "figure", value: figureOf(task, input) };
    default:
      throw new Refused("Nothing is typed for that.");
  }
}

function quantityOf(
  { typed }: EntryInput,
  dimension: Dimension,
  unit: string,
  [least, most]: readonly [number, number],
  missing: string,
): number {
  const parsed = parseQuantity(typed, dimension, unitById(unit));
  if (!parsed.ok) throw new Refused(parsed.problem === "empty" ? missing : parsed.message, "typed");
  if (parsed.value < least || parsed.value > most)
    throw new Refused(`${formatQuantity(parsed.value, 0.1, parsed.unit)} can’t be. Check figure and unit.`, "typed");
  return parsed.value;
}

function figureOf(task: Extract<Task, { kind: "figure" }>, input: EntryInput): number {
  const own = unitsOf(task.dimension).some((u) => u.id === input.unit);
  const unit = own ? input.unit : unitsOf(task.dimension)[0]!.id;
  const value = quantityOf(input, task.dimension, unit, task.possible, `Type the figure for “${task.label}”.`);
  const [low, high] = task.usual;
  if ((value < low || value > high) && !input.sure)
    throw new Refused(
      `${formatQuantity(value, task.resolution, unitById(unit))} is unusual. If it is really so, tick the box and save again.`,
      "sure",
    );
  return value;
}

const HARDEST = 1500;

function hardnessOf(input: EntryInput): TaskValue {
  const parsed = parseRange(input.typed, "hardness", unitById(input.unit || "mg/L"));
  if (!parsed.ok)
    throw new Refused(
      parsed.problem === "empty" ? "Type what the strip shows, like 4 °dH or 3–4 °dH." : parsed.message,
      "typed",
    );
  if (parsed.low < 0) throw new Refused("Hardness is a figure of 0 or more.", "typed");
  if (parsed.high > HARDEST)
    throw new Refused(`Over ${HARDEST} mg/L CaCO₃ no tap gives. Check the unit: °dH, °fH, ppm …`, "typed");
  const value = (parsed.low + parsed.high) / 2;
  return parsed.low === parsed.high
    ? { form: "figure", value }
    : { form: "figure", value, low: parsed.low, high: parsed.high };
}

function cartridgeOf(input: EntryInput): TaskValue {
  const number = (text: string | undefined, field: string, name: string, [least, most]: [number, number]) => {
    const value = Number((text ?? "").trim().replace(",", "."));
    if (!(text ?? "").trim()) return undefined;
    if (!Number.isFinite(value) || value < least || value > most)
      throw new Refused(`${name}: a figure from ${least} to ${most}.`, field);
    return value;
  };
  const fittedOn = /^\d{4}-\d{2}-\d{2}$/.test(input.typed)
    ? new Date(`${input.typed}T12:00:00Z`)
    : new Date(Number.NaN);
  if (Number.isNaN(fittedOn.getTime())) throw new Refused("Say when this cartridge was fitted.", "typed");
  if (fittedOn.getTime() > Date.now() + 864e5)
    throw new Refused("It can’t have been fitted on a day still to come.", "typed");
  const capacity = number(input.capacity, "capacity", "Litres it treats", [10, 100_000]);
  const perDay = number(input.perDay, "perDay", "Litres a day", [0.1, 5000]);
  const months = number(input.months, "months", "Months", [1, 36]);
  if (months === undefined) throw new Refused("Say how many months it may stay in at most.", "months");
  const due = cartridgeDue(fittedOn, { capacity: capacity ?? Infinity, perDay: capacity ? perDay : undefined, months });
  return { form: "cartridge", fittedOn: iso(fittedOn), dueOn: iso(due.on), by: due.by };
}

const iso = (date: Date) => date.toISOString().slice(0, 10);

/** Starts a timed task: a burst, a purge. The heat starts its own. */
export function startTimer(target: Target, input: { task: string }) {
  return inJob(target, "timer-start", input, async (tx, row) => {
    const { task, done, stand } = taskOf(row, input.task);
    const now = Date.now();
    const earlier = stand.records.timers.get(task.id) ?? [];
    // Two taps, or two people, at the same moment: one clock.
    if (earlier.some((t) => t.endedAt === null && (t.dueAt > now || task.kind !== "bursts"))) return;
    if (done) throw new Refused("That is done already.");
    if (task.kind === "timer") return insertTimer(tx, target, task, task.seconds, target.commandId);
    if (task.kind !== "bursts") throw new Refused("That has no clock to start.");
    const state = burstState(earlier, now, task.rule);
    if (state.phase === "pause")
      throw new Refused(`Off for ${Math.ceil((state.until - now) / 1000)} s more, then on again.`);
    if (state.phase === "fault")
      throw new Refused("Two alarms: no water is arriving. Find out why before another try.");
    if (state.phase === "resting" || state.phase === "done") throw new Refused("That is done already.");
    // A burst that ran over its limit unattended is closed as what it was.
    await tx
      .update(timer)
      .set({ endedAt: new Date(earlier.at(-1)?.dueAt ?? now), endedBy: target.by.id, outcome: "alarm" })
      .where(and(eq(timer.jobId, row.id), eq(timer.task, task.id), isNull(timer.endedAt)));
    await insertTimer(tx, target, task, task.rule.limit, target.commandId);
  });
}

function insertTimer(tx: Transaction, target: Target, task: Task, seconds: number, id: string) {
  const at = new Date();
  return tx
    .insert(timer)
    .values({
      ...keys(target),
      id,
      at,
      task: task.id,
      label: task.label,
      dueAt: new Date(at.getTime() + 1000 * seconds),
    })
    .then(() => undefined);
}

/** Heat is on: the clocks of the warm-up run, each as long as this machine is expected to take. */
async function startWarmUp(
  tx: Transaction,
  row: SheetRow,
  { kind, card }: Stand,
  target: Target,
  levels: readonly (keyof typeof WARM_WORDS)[],
) {
  const earlier = await warmUpTimes(tx, row.machineId);
  const at = new Date();
  for (const level of levels) {
    const usual = {
      "boiler-ready": kind.warmUp.boilerReady,
      "machine-warm": kind.warmUp.machineWarm,
      "heat-soaked": kind.warmUp.heatSoaked ?? 120,
    };
    const { seconds } = predictWarmUp(
      60 * usual[level],
      earlier.get(level) ?? [],
      level === "boiler-ready" ? shortestFor({ kind, card }) : 0,
    );
    await tx.insert(timer).values({
      jobId: row.id,
      by: target.by.id,
      id: level === levels[0] ? target.commandId : crypto.randomUUID(),
      at,
      task: `warm.${level}`,
      label: WARM_WORDS[level],
      dueAt: new Date(at.getTime() + 1000 * seconds),
    });
  }
}

/** Cold mains water to the switch-off point, with the model's own element and boiler. */
function shortestFor({ kind, card }: Pick<Stand, "kind" | "card">): number {
  if (!kind.heating || !(card.boilerLitres > 0) || !(card.elementWatts > 0)) return 0;
  return shortestHeatUp({ watts: card.elementWatts, litres: card.boilerLitres, to: kind.heating.to }, 15);
}

/** Ends a clock: done, or stopped by an alarm. Ended twice is ended once. */
export function endTimer(target: Target, input: { task: string; outcome: "done" | "alarm"; sure: boolean }) {
  return inJob(target, "timer-end", input, async (tx, row) => {
    const { task, stand } = taskOf(row, input.task);
    const open = row.timers.findLast((t) => t.task === input.task && t.endedAt === null);
    if (!open) {
      const last = row.timers.findLast((t) => t.task === input.task);
      if (last?.outcome === input.outcome) return;
      throw new Refused(last ? "That clock was ended already, the other way." : "No clock runs for that.");
    }
    const now = new Date();
    if (task.kind === "bursts" && now > open.dueAt && input.outcome === "done")
      throw new Refused(`Over ${task.rule.limit} s: the control has stopped it. It counts as an alarm.`);
    if (task.kind === "timer" && input.outcome === "done" && now < open.dueAt && !input.sure)
      throw new Refused(`It runs ${Math.ceil((open.dueAt.getTime() - now.getTime()) / 1000)} s more.`);
    if (task.kind === "warm" && task.level === "boiler-ready" && !input.sure) {
      const { card } = stand;
      const shortest = shortestFor(stand);
      const seconds = (now.getTime() - open.at.getTime()) / 1000;
      if (tooFast(seconds, shortest))
        throw new Refused(
          `Cold water can’t be hot in ${Math.round(seconds)} s: ${card.elementWatts} W need ${Math.round(shortest)} s at least. If the machine was warm when it was switched on, tick the box.`,
          "sure",
        );
    }
    await tx
      .update(timer)
      .set({ endedAt: now, endedBy: target.by.id, outcome: input.outcome })
      .where(and(eq(timer.id, open.id), isNull(timer.endedAt)));
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

import { CAUTIONS } from "../../core/kind";
import { baseUnit } from "../../core/quantity";
import {
  type StationProgress,
  type Task,
  isDone,
  analyse,
  isEarlyEntry,
  planOf,
  remedyFor,
  tasksNow,
} from "../../core/sheet";
import { PATTERNS, diagnose } from "../../core/diagnose";
import { NO_WATER, burstState } from "../../core/startup";
import { HARDNESS_LIMIT, PURGE_LITRES } from "../../core/water";
import type { SheetRow } from "../../db/queries/jobs";
import { type Stand, SHOTS_TASK } from "./stand";
import { analysisOf } from "./analysis";
import { seenInReadings } from "./evidence";
import { sayTaken, shotsBrief } from "./shots-words";
import { sayCell, sayValue, saySeconds } from "./words";

export type StationView = ReturnType<typeof stationView>;
export type TaskView = StationView["tasks"][number];

/** A station as the screen shows it: where it stands, its tasks with what was recorded, and its cautions in words. */
export function stationView(
  { station, state, why, until }: StationProgress,
  stand: Stand,
  row: SheetRow,
  instruments: readonly GaugeRow[],
  /** The station in hand is told in full; of the others what their line shows. */
  { now, open }: { now: number; open: boolean },
) {
  const due = tasksNow(station, stand.records);
  // The stop is one of the station’s ticks: it covers the sheet until that one is ticked.
  const stop = due.find((t) => t.kind === "tick" && t.label === station.hardStop?.confirm);
  const tasks = due.map((task) => taskView(task, stand, row, instruments, { now, open }));
  return {
    id: station.id,
    title: station.title,
    needs: station.needs,
    state,
    why: why ?? "",
    until: until ?? null,
    skippable: station.skippable,
    hardStop:
      station.hardStop && stop && !stand.records.values.has(stop.id) ? { ...station.hardStop, key: stop.id } : null,
    cautions: station.cautions.map((id) => CAUTIONS[id]),
    tasks,
    result: resultOf(tasks),
  };
}

function taskView(
  task: Task,
  stand: Stand,
  row: SheetRow,
  instruments: readonly GaugeRow[],
  { now, open: inFull }: { now: number; open: boolean },
) {
  const timers = row.timers.filter((t) => t.task === task.id);
  const open = timers.findLast((t) => t.endedAt === null);
  const last = timers.at(-1);
  return {
    id: task.id,
    kind: task.kind,
    label: task.label,
    hint: task.hint ?? "",
    optional: task.optional ?? false,
    done: isDone(
      task,
      stand.records,
      now,
      stand.loops.map((l) => l.loop),
    ),
    loop: "loop" in task ? task.loop : null,
    shots: inFull && task.kind === "shots" ? shotsBrief(row, stand) : null,
    /** What it can be read with. */
    instruments: !inFull
      ? []
      : task.kind === "figure"
        ? choices(instruments, task.instrument, task.id)
        : task.kind === "hardness"
          ? choices(instruments, "hardness", task.id)
          : [],
    /** Rows that count, for the line of a station that is not open. */
    rows: task.kind === "table" ? (stand.records.values.get(task.id)?.length ?? 0) : 0,
    table: inFull && task.kind === "table" ? tableView(task, stand, row, instruments) : null,
    plan: inFull && task.kind === "plan" ? planView(task, stand, row) : null,
    diagnosis: inFull && task.kind === "diagnosis" ? diagnosisView(task, row, stand) : null,
    options: task.kind === "choice" ? task.options : [],
    many: task.kind === "text" && (task.many ?? false),
    unit: task.kind === "figure" ? baseUnit(task.dimension).symbol : task.kind === "hardness" ? "mg/L CaCO₃" : "",
    dimension: task.kind === "figure" ? task.dimension : task.kind === "hardness" ? ("hardness" as const) : null,
    tolerance:
      task.kind === "figure"
        ? (task.tolerance ?? null)
        : task.kind === "hardness"
          ? { lower: 0, ...HARDNESS_LIMIT[row.schools.hardness] }
          : null,
    resolution: task.kind === "figure" ? task.resolution : 1,
    remedy: remedyOf(task, stand),
    lines: linesOf(task, row, stand),
    burst: task.kind === "bursts" ? burstView(task, stand, now) : null,
    clock: open ? { startedAt: open.at.getTime(), dueAt: open.dueAt.getTime(), by: open.starter.name } : null,
    took:
      last?.endedAt && last.outcome === "done" ? saySeconds((last.endedAt.getTime() - last.at.getTime()) / 1000) : "",
    endedBy: last?.ender?.name ?? "",
    seconds: task.kind === "timer" ? task.seconds : 0,
  };
}

function remedyOf(task: Task, stand: Stand): string {
  const value = stand.records.values.get(task.id)?.at(-1);
  if (value?.form !== "figure") return "";
  if (task.kind === "figure") return remedyFor(task, value.value) ?? "";
  if (task.kind === "purge" && value.value < PURGE_LITRES.least)
    return `${(PURGE_LITRES.least - value.value).toFixed(1)} L more before the inlet opens.`;
  return "";
}

function linesOf(task: Task, row: SheetRow, stand: Stand) {
  if (task.kind === "table" || task.kind === "diagnosis") return [];
  if (task.kind === "shots") return takenLine(row, stand);
  return row.entries
    .filter((e) => e.task === task.id)
    .map((e) => ({
      id: e.id,
      at: e.at.toISOString(),
      by: e.author.name,
      // A position on the scale, for the strip of what has limits.
      value: e.value.form === "figure" ? e.value.value : null,
      early: isEarlyEntry(stand.records, row.level, e.task, e.at.getTime()),
      ...sayValue(task, e.value, { schools: row.schools, typed: e.typed, rule: row.decisionRule }),
    }));
}

/** The shot taken as the recipe, as the line of a station that is done. */
function takenLine(row: SheetRow, stand: Stand) {
  const accepted = sayTaken(row, stand);
  const entry = row.entries.findLast((e) => e.task === SHOTS_TASK);
  if (!accepted || !entry) return [];
  const text = [accepted.said, accepted.reason].filter(Boolean).join("; ");
  return [
    {
      id: entry.id,
      at: entry.at.toISOString(),
      by: entry.author.name,
      value: null,
      early: false,
      text,
      verdict: accepted.verdict,
    },
  ];
}

function burstView(task: Extract<Task, { kind: "bursts" }>, stand: Stand, now: number) {
  const state = burstState(stand.records.timers.get(task.id) ?? [], now, task.rule);
  return {
    phase: state.phase,
    attempt: "attempt" in state ? state.attempt : state.next - 1,
    tries: task.rule.tries,
    until: "until" in state ? state.until : null,
    limit: task.rule.limit,
    pause: task.rule.pause,
    running: task.running,
    ended: task.ended,
    lookFor: state.phase === "fault" ? [...NO_WATER] : [],
  };
}

type GaugeRow = SheetRow["machine"]["instruments"][number];

/** Instruments for a figure: line pressure by a line gauge, all else by any of its quantity. */
function choices(instruments: readonly GaugeRow[], quantity: string | undefined, task: string) {
  const place = task.startsWith("line.") ? "line" : null;
  return instruments
    .filter(
      (g) =>
        g.quantity === quantity && (g.quantity !== "pressure" || (place ? g.place === place : g.place === "boiler")),
    )
    .map((g) => ({ id: g.id, name: g.name }));
}

function tableView(
  task: Extract<Task, { kind: "table" }>,
  stand: Stand,
  row: SheetRow,
  instruments: readonly GaugeRow[],
) {
  const struck = new Map(
    row.entries.flatMap((e) => (e.supersedes && e.value.form === "struck" ? [[e.supersedes, e.value.reason]] : [])),
  );
  const analysed = analyse(task.analysis, task.id, analysisOf(row, stand));
  return {
    columns: task.columns.map((c) => ({
      name: c.name,
      label: c.label,
      optional: c.optional ?? false,
      dimension: c.type.kind === "quantity" ? c.type.dimension : null,
      options: c.type.kind === "choice" ? c.type.options : [],
      instruments: c.type.kind === "quantity" ? choices(instruments, c.type.instrument, task.id) : [],
    })),
    rows: row.entries.flatMap((e) => {
      if (e.task !== task.id || e.value.form !== "row") return [];
      const { cells } = e.value;
      return [
        {
          id: e.id,
          by: e.author.name,
          cells: task.columns.map((c) => (cells[c.name] ? sayCell(c, cells[c.name]!) : "–")),
          struck: struck.get(e.id) ?? null,
        },
      ];
    }),
    least: task.least,
    lines: analysed.lines,
    meter: analysed.meter ? { points: analysed.meter.points, K: analysed.meter.K, start: analysed.meter.start } : null,
  };
}

function planView(task: Extract<Task, { kind: "plan" }>, stand: Stand, row: SheetRow) {
  const made = planOf(task.plan, analysisOf(row, stand));
  return "missing" in made ? { missing: made.missing, steps: [] } : { missing: "", steps: made.steps };
}

function diagnosisView(task: Extract<Task, { kind: "diagnosis" }>, row: SheetRow, stand: Stand) {
  const pattern = PATTERNS[task.pattern];
  const typed = (stand.records.values.get(task.id) ?? []).flatMap((v) => (v.form === "evidence" ? [v] : []));
  const derived = seenInReadings(task.pattern, stand, row);
  // What a person saw stands over what the readings say by themselves.
  const evidence = [...derived, ...typed];
  const { ranked, next, named } = diagnose(pattern, evidence);
  return {
    title: pattern.title,
    ranked: ranked.slice(0, 4).map(({ cause, probability }) => ({ id: cause.id, label: cause.label, probability })),
    next: next?.check.id ?? null,
    checks: pattern.checks.map(({ id, label, how, outcomes }) => ({
      id,
      label,
      how,
      outcomes,
      seen: evidence.findLast((e) => e.check === id)?.outcome ?? null,
      derived: derived.some((e) => e.check === id) && !typed.some((e) => e.check === id),
    })),
    seen: evidence.length,
    typed: typed.length,
    named: named && { label: named.label, remedy: named.remedy, part: named.part },
  };
}

/** One line for a station that is done: what was measured, else what was said. */
function resultOf(tasks: { kind: string; lines: { text: string; verdict?: string }[]; took: string; label: string }[]) {
  const measured = tasks
    .filter((t) => ["figure", "hardness", "purge"].includes(t.kind))
    .flatMap((t) => t.lines.slice(-1));
  const timed = tasks.filter((t) => t.took).map((t) => t.took);
  const words = tasks
    .filter((t) => ["text", "choice", "cartridge", "shots"].includes(t.kind))
    .flatMap((t) => t.lines.slice(-1));
  const first = measured[0];
  return {
    text: [...measured.map((l) => l.text), ...timed, ...words.map((l) => l.text)].slice(0, 3).join(", "),
    verdict: first?.verdict ?? null,
  };
}

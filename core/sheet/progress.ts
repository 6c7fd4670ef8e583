import { aim } from "../metrology";
import { burstState } from "../startup";
import { PURGE_LITRES } from "../water";
import type { Loop } from "../loop";
import type { Station, StationId, Task } from "./plan";
import { type LoopRecord, type SheetRecords, chosen, figure, latest, loopRecord, rowsOf } from "./records";

export type StationState = "done" | "skipped" | "ready" | "running" | "blocked";

export interface StationProgress {
  station: Station;
  state: StationState;
  /** Why it is blocked, or why it was skipped. */
  why?: string;
  /** When what runs by itself is due, ms. */
  until?: number;
}

/** Where each station stands now: what is done, what is ready, what is blocked and why, what runs by itself. */
export function progress(
  stations: readonly Station[],
  records: SheetRecords,
  now: number,
  loops: readonly Loop[],
): StationProgress[] {
  const closed = new Set<StationId>();
  const goesBack = chosen(records, "look-over.decision") === "return";
  const states = new Map<StationId, StationProgress>();
  for (const station of stations) {
    const tasks = tasksNow(station, records);
    const skipped = records.skipped.get(station.id);
    if (
      tasks.every((task) => task.optional || isDone(task, records, now, loops)) &&
      !(goesBack && station.id === "look-over")
    ) {
      states.set(station.id, { station, state: "done" });
      closed.add(station.id);
    } else if (skipped !== undefined && station.skippable) {
      states.set(station.id, { station, state: "skipped", why: skipped });
      closed.add(station.id);
    } else if (goesBack && station.id !== "sign") {
      states.set(station.id, { station, state: "skipped", why: "Transport damage: the machine goes back." });
      closed.add(station.id);
    }
  }
  return stations.map((station) => {
    const known = states.get(station.id);
    if (known) return known;
    const missing = requirementsOf(station, stations).find((r) => !closed.has(r.station));
    if (missing) return { station, state: "blocked", why: missing.because };
    const until = runsUntil(station, records, now, loops);
    return until === undefined ? { station, state: "ready" } : { station, state: "running", until };
  });
}

/** What must come before: as planned, and everything before the signature. */
function requirementsOf(station: Station, stations: readonly Station[]): Station["requires"] {
  if (station.id !== "sign") return station.requires.filter((r) => stations.some((s) => s.id === r.station));
  return stations.flatMap((s) =>
    s.id === "sign" ? [] : [{ station: s.id, because: `Before the signature: ${s.title.toLowerCase()}.` }],
  );
}

export function tasksNow(station: Station, records: SheetRecords): Task[] {
  return station.tasks.filter((task) => task.when?.(records) ?? true);
}

/**
 * The station in hand: the one picked, while it can be worked on; else the first that is ready for hands; else what runs by itself.
 */
export function stationInHand(all: readonly StationProgress[], picked?: string): StationProgress | null {
  const workable = all.filter((p) => p.state === "ready" || p.state === "running");
  return (
    workable.find((p) => p.station.id === picked) ?? workable.find((p) => p.state === "ready") ?? workable[0] ?? null
  );
}

/** When the clock of a station that waits by itself is due; undefined when hands are needed. */
function runsUntil(station: Station, records: SheetRecords, now: number, loops: readonly Loop[]): number | undefined {
  const open = tasksNow(station, records).filter((task) => !task.optional && !isDone(task, records, now, loops));
  const waits = open.map((task) => waitOf(task, records, now));
  if (waits.length === 0 || waits.some((until) => until === undefined)) return undefined;
  return Math.min(...waits.map((until) => until!));
}

/** Shorter waits keep the hands at the machine. s */
const HANDS_FREE = 30;

function waitOf(task: Task, records: SheetRecords, now: number): number | undefined {
  const timers = records.timers.get(task.id) ?? [];
  if (task.kind === "bursts") {
    const state = burstState(timers, now, task.rule);
    if (state.phase === "resting") return state.until;
    return state.phase === "pause" && task.rule.pause >= HANDS_FREE ? state.until : undefined;
  }
  // A purge runs seconds, with a hand on the switch; a warm-up runs by itself.
  if (task.kind !== "warm") return undefined;
  const last = timers.at(-1);
  return last && last.endedAt === null && last.dueAt > now ? last.dueAt : undefined;
}

/** How many of the events are readings before the first move, and after the last. */
export function readingRuns(events: LoopRecord["events"]): { asFound: number; asLeft: number; moves: number } {
  const first = events.indexOf("move");
  const last = events.lastIndexOf("move");
  return {
    asFound: first === -1 ? events.length : first,
    // With no move made, what was found is what is left.
    asLeft: events.length - 1 - last,
    moves: events.filter((e) => e === "move").length,
  };
}

export function isDone(task: Task, records: SheetRecords, now: number, loops: readonly Loop[]): boolean {
  switch (task.kind) {
    case "condition":
      return records.notes > 0;
    case "readings":
    case "adjust":
    case "loop":
      return loopDone(task, records, loops);
    case "table":
      return rowsOf(records, task.id).length >= task.least;
    case "plan":
    case "diagnosis":
      return true;
    case "shots":
      return records.shotAccepted;
    case "sign":
      return records.signed;
    case "bursts": {
      const { phase } = burstState(records.timers.get(task.id) ?? [], now, task.rule);
      return phase === "done";
    }
    case "timer":
    case "warm":
      return records.timers.get(task.id)?.some((t) => t.outcome === "done") ?? false;
    case "purge":
      return (figure(records, task.id) ?? 0) >= PURGE_LITRES.least;
    case "figure":
      return figureHolds(task, figure(records, task.id));
    default:
      return latest(records, task.id) !== undefined;
  }
}

type LoopTask = Extract<Task, { loop: string }>;

function loopDone(task: LoopTask, records: SheetRecords, loops: readonly Loop[]): boolean {
  const loop = loops.find((l) => l.id === task.loop);
  if (!loop) return true;
  const record = loopRecord(records, loop.id);
  const runs = readingRuns(record.events);
  // Over the limit and no water back: no second reading is asked of a stuck valve.
  const found = runs.asFound >= loop.needed.found || runs.moves > 0 || record.noReturn;
  const settled = record.faultTaken || record.accepted;
  // With nothing turned what was found is what is left, but only once it is settled that nothing is to be turned.
  const needed = record.noReturn ? 1 : runs.moves > 0 ? loop.needed.left : loop.needed.found;
  const left = settled && runs.asLeft >= needed;
  if (task.kind === "adjust") return settled;
  if (task.kind === "readings") return task.run === "as-found" ? found : left;
  return loop.knob ? found && left : found && runs.asLeft >= loop.needed.found;
}

function figureHolds(task: Extract<Task, { kind: "figure" }>, value: number | undefined): boolean {
  if (value === undefined) return false;
  return !task.mustHold || remedyFor(task, value) === null;
}

/** What to do about a figure that must hold and does not; null when it does. */
export function remedyFor(task: Extract<Task, { kind: "figure" }>, value: number): string | null {
  if (!task.mustHold || !task.tolerance) return null;
  const { lower = -Infinity, upper = Infinity } = task.tolerance;
  if (value >= lower && value <= upper) return null;
  return value < aim(task.tolerance) ? task.mustHold.below : task.mustHold.above;
}

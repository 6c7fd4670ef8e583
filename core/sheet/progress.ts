import type { Loop, LoopId } from "../knobs";
import type { Station, StationId } from "./plan";
import { type SheetRecords, chosen, loopRecord } from "./records";
import { type Moment, type Task, isDone, waitsUntil } from "./tasks";

export type StationState = "done" | "skipped" | "ready" | "running" | "blocked";

export interface StationProgress {
  station: Station;
  state: StationState;
  /** Why it is blocked, or why it was skipped. */
  why?: string;
  /** When what runs by itself is due, ms. */
  until?: number;
}

/**
 * Where each station stands now: what is done, what is ready, what is blocked and why, what runs by itself.
 *
 * @param now ms
 */
export function progress(
  stations: readonly Station[],
  records: SheetRecords,
  now: number,
  loops: readonly Loop[],
): StationProgress[] {
  const at: Moment = { records, now, loops };
  const closed = new Set<StationId>();
  const goesBack = chosen(records, "look-over.decision") === "return";
  const states = new Map<StationId, StationProgress>();
  const onPlan = new Set(stations.map((s) => s.id));
  for (const station of stations) {
    const tasks = tasksNow(station, records);
    const skipped = records.skipped.get(station.id);
    // Whether anything is asked of it is known only once what comes before it is done.
    if (tasks.length === 0 && station.requires.some((r) => onPlan.has(r.station) && !closed.has(r.station))) continue;
    if (tasks.every((task) => task.optional || isDone(task, at)) && !(goesBack && station.id === "look-over")) {
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
  const open = stations.filter((s) => !closed.has(s.id));
  return stations.map((station) => {
    const known = states.get(station.id);
    if (known) return known;
    const why = blockedBy(station, open, at);
    if (why !== undefined) return { station, state: "blocked", why };
    const until = runsUntil(station, at);
    return until === undefined ? { station, state: "ready" } : { station, state: "running", until };
  });
}

/** Why the first of what must come before keeps it closed: as planned, and everything before the signature. */
function blockedBy(station: Station, open: readonly Station[], at: Moment): string | undefined {
  if (station.id !== "sign")
    return station.requires.find(
      (r) => !r.or?.(at.records) && open.some((s) => s.id === r.station && (r.lasting || !isOpenedAgain(s, at))),
    )?.because;
  const before = open.find((s) => s.id !== "sign");
  return before && `Before the signature: ${before.title.toLowerCase()}.`;
}

/** It was done, and the grind was moved since: the dose is asked for again, and shots go on meanwhile. */
function isOpenedAgain(station: Station, at: Moment): boolean {
  const open = tasksNow(station, at.records).filter((task) => !task.optional && !isDone(task, at));
  return open.length > 0 && open.every((task) => "loop" in task && loopRecord(at.records, task.loop).regrind !== null);
}

/** Why a knob is not moved yet: what it lies behind was not opened, or its pressure not let out. Null where nothing stands before it. */
export function closedBefore({ plan, records }: Sheet, loop: LoopId): string | null {
  const shut = plan
    .flatMap((s) => s.tasks)
    .find((t) => t.kind === "tick" && t.before === loop && !records.values.has(t.id));
  if (!shut) return null;
  return shut.when?.(records)
    ? `First: ${shut.label}. Tick it on the sheet.`
    : "No adjustment is advised now, so nothing was opened for it. To adjust all the same, tick that on the sheet first.";
}

interface Sheet {
  readonly plan: readonly Station[];
  readonly records: SheetRecords;
}

/** Tasks of a station that are asked for, by what was recorded so far. */
export function tasksNow(station: Station, records: SheetRecords): Task[] {
  return station.tasks.filter((task) => task.when?.(records) ?? true);
}

/**
 * The step in hand: the one picked, unless what comes before it is still open; else the first that is ready for hands; else what runs by
 * itself. A step that is done can be picked again.
 */
export function stationInHand(all: readonly StationProgress[], picked?: string): StationProgress | null {
  const workable = all.filter((p) => p.state === "ready" || p.state === "running");
  return (
    all.find((p) => p.station.id === picked && p.state !== "blocked") ??
    workable.find((p) => p.state === "ready") ??
    workable[0] ??
    null
  );
}

/** When the clock of a station that waits by itself is due; undefined when hands are needed. */
function runsUntil(station: Station, at: Moment): number | undefined {
  const open = tasksNow(station, at.records).filter((task) => !task.optional && !isDone(task, at));
  const waits = open.map((task) => waitsUntil(task, at));
  if (waits.length === 0 || waits.some((until) => until === undefined)) return undefined;
  return Math.min(...waits.map((until) => until!));
}

import type { AdjustEvent } from "../adjust";
import type { Loop, LoopId } from "../knobs";
import { scatterShown } from "./figure";
import type { Job, Move, Reading, Repair } from "./job";

/** The log of a knob: readings, moves and repairs in working order, and what of it counts. */
export type LogLine =
  | { readonly kind: "reading"; readonly row: Reading; readonly stands: boolean }
  | { readonly kind: "move"; readonly row: Move; readonly stands: boolean }
  | { readonly kind: "repair"; readonly row: Repair; readonly stands: boolean };

/** All of one knob in working order; a corrected line keeps its place and stands no more. */
export function logOf({ readings, moves, repairs }: Logged, loop: LoopId): LogLine[] {
  const ofLoop = <T extends { loop: LoopId }>(rows: readonly T[]) => rows.filter((row) => row.loop === loop);
  const read = ofLoop(readings);
  const moved = ofLoop(moves);
  const repaired = ofLoop(repairs);
  const replaced = new Set([...read, ...moved, ...repaired].flatMap((row) => row.supersedes ?? []));
  const all: LogLine[] = [
    ...read.map((row) => ({ kind: "reading" as const, row, stands: !replaced.has(row.id) })),
    ...moved.map((row) => ({ kind: "move" as const, row, stands: !replaced.has(row.id) })),
    ...repaired.map((row) => ({ kind: "repair" as const, row, stands: !replaced.has(row.id) })),
  ];
  return all.sort((a, b) => a.row.sequence - b.row.sequence || a.row.at.getTime() - b.row.at.getTime());
}

export type Logged = Pick<Job, "readings" | "moves" | "repairs">;

/** What counts: lines that stand, and no flowing readings, which are evidence beside the loop. */
export function counted(log: readonly LogLine[]): LogLine[] {
  const basket = basketInUse(log);
  return log.filter((line) => line.stands && !(line.kind === "reading" && beside(line.row, basket)));
}

/** Flowing, half a dose, or into another basket: evidence beside the loop, not a step of it. */
function beside({ detail }: Reading, basket: "single" | "double" | undefined): boolean {
  return Boolean(detail.flowing) || detail.half !== undefined || (detail.basket ?? basket) !== basket;
}

/** The basket last dosed into, whole; undefined where nobody said which. */
function basketInUse(log: readonly LogLine[]): "single" | "double" | undefined {
  const last = log.findLast((l) => l.kind === "reading" && l.stands && l.row.detail.half === undefined);
  return last?.kind === "reading" ? last.row.detail.basket : undefined;
}

/** Flowing readings that stand. */
export function flowing(log: readonly LogLine[]): Reading[] {
  return log.flatMap((line) => (line.kind === "reading" && line.stands && line.row.detail.flowing ? [line.row] : []));
}

/** What came after the last repair: before it, it was another machine. */
export function sinceRepair(log: readonly LogLine[]): LogLine[] {
  return log.slice(log.findLastIndex((line) => line.kind === "repair" && line.stands) + 1);
}

/** The last repair that stands; null while nothing was renewed or freed. */
export function lastRepair(log: readonly LogLine[]): Repair | null {
  const line = log.findLast((l) => l.kind === "repair" && l.stands);
  return line?.kind === "repair" ? line.row : null;
}

const MINUTE = 60_000;
/** Two settings are the same within this, the knob’s unit: nobody sets finer. */
const SAME = 1e-3;

/**
 * What the engine is told: all since the last repair. A reading after a wait, or after a restart, can hardly be a stale one.
 */
export function adjustEvents(log: readonly LogLine[], loop: Loop): AdjustEvent[] {
  let moved: number | null = null;
  // Where the amount stands, as far as it was read: set otherwise between two doses it was moved, whether or not anybody logged it.
  let stood: number | null = null;
  const lines = counted(sinceRepair(log));
  const unstated = unstatedScatter(lines, loop);
  const finest = Math.min(
    ...lines.flatMap((l) => (l.kind === "reading" && l.row.detail.tap !== "closed" ? [l.row.uCommon] : [])),
  );
  return lines.flatMap((line): AdjustEvent[] => {
    if (line.kind === "repair") return [];
    if (line.kind === "move") {
      moved = line.row.at.getTime();
      const amount = line.row.amount * (loop.hand?.sign ?? 1);
      if (stood !== null) stood += amount;
      return [{ kind: "move", amount }];
    }
    const { value, uCommon, at, detail } = line.row;
    const stands = detail.amount;
    const unlogged = stood !== null && stands !== undefined && loop.with.amount ? stands - stood : 0;
    if (stands !== undefined) stood = stands;
    const waited = moved !== null && loop.settle > 0 && at.getTime() - moved >= loop.settle * MINUTE;
    return [
      ...(Math.abs(unlogged) > SAME ? [{ kind: "move" as const, amount: unlogged }] : []),
      {
        kind: "reading",
        value,
        ...doubtOf(Math.max(1e-3, unstated(line.row)), detail.tap === "closed" ? null : uCommon, finest),
        ...(waited || detail.settled ? { settled: true } : {}),
      },
    ];
  });
}

/** An instrument that shares twice as much with itself as the finest one read with is a coarse one beside it. Our choice. */
const COARSER = 2;

/**
 * What a reading may be off by. Beside a finer instrument a coarse one decides nothing by what it shares with itself: that counts as its own
 * scatter. Neither does a gauge behind a closed tap: it is judged at the group once the tap is open.
 *
 * @param uCommon null behind the closed tap
 */
function doubtOf(u: number, uCommon: number | null, finest: number): { u: number; uCommon: number } {
  if (uCommon === null) return { u, uCommon: 0 };
  return uCommon > COARSER * finest ? { u: Math.hypot(u, uCommon), uCommon: 0 } : { u, uCommon };
}

/** What a repeat draws anew, by the instrument: where it was not stated, the readings of this log tell of it too. */
function unstatedScatter(lines: readonly LogLine[], { at }: Loop): (row: Reading) => number {
  const places: Reading[][] = [[]];
  for (const line of lines)
    if (line.kind === "reading") places.at(-1)!.push(line.row);
    else places.push([]);
  return (row) => {
    const own = ownU(row);
    // What scatters of a button are its shots, whatever is stated of the scale.
    if (row.instrument.repeatability > 0 && at.knob !== "button") return own;
    const alike = (r: Reading) => r.instrument.id === row.instrument.id && r.detail.tap === row.detail.tap;
    return scatterShown(
      own,
      places.map((place) => place.filter(alike).map((r) => r.value)),
    );
  };
}

/** Standard uncertainty that a repeat with the same instrument draws anew. */
export function ownU({ u, uCommon }: Pick<Reading, "u" | "uCommon">): number {
  return Math.sqrt(Math.max(0, u ** 2 - uCommon ** 2));
}

export type Run = "as-found" | "as-left";

/** Readings before the first move or repair, or after the last. */
export function runOf(log: readonly LogLine[], run: Run): Reading[] {
  const now = counted(log);
  const touched = (line: LogLine) => line.kind !== "reading";
  const first = now.findIndex(touched);
  const part =
    run === "as-found" ? now.slice(0, first === -1 ? undefined : first) : now.slice(now.findLastIndex(touched) + 1);
  // Read against a closed tap it says what OPV and pump do, not what the group sees.
  return part.flatMap((line) => (line.kind === "reading" && line.row.detail.tap !== "closed" ? [line.row] : []));
}

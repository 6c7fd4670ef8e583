import type { AdjustEvent, Doubted } from "../adjust";
import type { Loop, LoopId } from "../knobs";
import { scatterShown } from "./figure";
import type { Entry, Job, Move, Reading, Repair } from "./job";
import { kindOf } from "./particulars";
import { standingShots } from "./shots-standing";
import { takenBack } from "./taken-back";

/** The log of a knob: readings, moves and repairs in working order, and what of it counts. */
export type LogLine =
  | {
      readonly kind: "reading";
      readonly row: Reading;
      readonly stands: boolean;
      /** Later readings showed that this one is old or a slip: on record, and no part of what is made of the others. */
      readonly aside?: Doubted["as"];
      /** Somebody has excluded it, with the reason. */
      readonly excluded?: Entry;
    }
  | { readonly kind: "move"; readonly row: Move; readonly stands: boolean }
  | { readonly kind: "repair"; readonly row: Repair; readonly stands: boolean }
  /** The grind was moved: what was dosed before it was another dose. Told by the shots, where their grinder is the one that doses. */
  | { readonly kind: "grind"; readonly row: GrindMoved; readonly stands: true };

/** A shot at another grind than the last dose was weighed at. */
export interface GrindMoved extends Pick<Reading, "id" | "at" | "by"> {
  readonly reason: "";
  /** As the grinder’s scale shows it. */
  readonly from: number;
  readonly to: number;
}

/** All of one knob in working order; a corrected line keeps its place and stands no more. */
export function logOf(job: Logged, loop: LoopId): LogLine[] {
  const { readings, moves, repairs, entries } = job;
  const ofLoop = <T extends { loop: LoopId }>(rows: readonly T[]) => rows.filter((row) => row.loop === loop);
  const read = ofLoop(readings);
  const moved = ofLoop(moves);
  const repaired = ofLoop(repairs);
  const replaced = new Set([...read, ...moved, ...repaired].flatMap((row) => row.supersedes ?? []));
  const exclusions = excludedIn({ entries });
  const all = [
    ...read.map((row) => {
      const excluded = exclusions.get(row.id);
      const stands = !replaced.has(row.id) && !excluded;
      return { kind: "reading" as const, row, stands, ...(excluded ? { excluded } : {}) };
    }),
    ...moved.map((row) => ({ kind: "move" as const, row, stands: !replaced.has(row.id) })),
    ...repaired.map((row) => ({ kind: "repair" as const, row, stands: !replaced.has(row.id) })),
  ];
  all.sort((a, b) => a.row.sequence - b.row.sequence || a.row.at.getTime() - b.row.at.getTime());
  return loop === "basket" && kindOf(job.particulars).grinder === "built-in" ? withGrinds(all, job) : all;
}

/** The doses with a line wherever the grind of the shots was moved between two of them, and after the last. */
function withGrinds(lines: readonly LogLine[], job: Logged): LogLine[] {
  const shots = standingShots(job).filter((s) => !s.amends && !s.pull.preGround);
  if (shots.length === 0) return [...lines];
  // Weighed before the first shot, a dose is of that shot’s grind: nobody says it earlier.
  const grindAt = (at: Date) => (shots.findLast((s) => s.at <= at) ?? shots[0]!).pull.setting;
  const moved = (from: number, to: number, before: Date | null): LogLine[] => {
    const shot = shots.find((s) => s.pull.setting === to && (before === null || s.at > before)) ?? shots.at(-1)!;
    const row = { id: `grind ${shot.id}`, at: shot.at, by: shot.by, reason: "" as const, from, to };
    return from === to ? [] : [{ kind: "grind", row, stands: true }];
  };
  let [stood, since]: [number | null, Date | null] = [null, null];
  const told = lines.flatMap((line): LogLine[] => {
    if (line.kind !== "reading" || !line.stands) return [line];
    const [from, at, to] = [stood, since, grindAt(line.row.at)];
    [stood, since] = [to, line.row.at];
    return from === null ? [line] : [...moved(from, to, at), line];
  });
  return stood === null ? told : [...told, ...moved(stood, shots.at(-1)!.pull.setting, since)];
}

/** What was dosed since the grind was last moved. */
export function sinceMoved(log: readonly LogLine[]): LogLine[] {
  return log.slice(log.findLastIndex((line) => line.kind === "grind") + 1);
}

/** Why a reading is set aside, in words. */
export const ASIDE = {
  old: "still the value from before the adjustment",
  slip: "does not fit the others",
} as const satisfies Record<Doubted["as"], string>;

export type Logged = Pick<Job, "readings" | "moves" | "repairs" | "entries" | "shots" | "particulars">;

/** What excluded a reading and was not taken back itself, by the reading’s id. */
export function excludedIn(job: Pick<Job, "entries">): Map<string, Entry> {
  const back = takenBack(job);
  return new Map([...back].filter(([, by]) => by.value.form === "struck" && !back.has(by.id)));
}

/** What counts: lines that stand, and no flowing readings, which are evidence beside the loop. */
export function counted(log: readonly LogLine[]): LogLine[] {
  const basket = basketInUse(log);
  return wholeDoses(log.filter((line) => line.stands && !(line.kind === "reading" && beside(line.row, basket))));
}

/** Flowing, or into another basket: evidence beside the loop, not a step of it. */
function beside({ detail }: Reading, basket: "single" | "double" | undefined): boolean {
  return Boolean(detail.flowing) || (detail.basket ?? basket) !== basket;
}

/** A dose in two halves is their sum, by the line of its second; half a dose is none. */
function wholeDoses(lines: readonly LogLine[]): LogLine[] {
  const halfOf = (line: LogLine) => (line.kind === "reading" ? line.row.detail.half : undefined);
  if (lines.every((line) => halfOf(line) === undefined)) return [...lines];
  let first: Reading | null = null;
  return lines.flatMap((line): LogLine[] => {
    const half = halfOf(line);
    const before = first;
    first = half === 1 && line.kind === "reading" ? line.row : null;
    // One mean is made of sums and whole doses: they are held against one span.
    if (half === undefined)
      return line.kind === "reading" ? [{ ...line, row: weighed(line.row, line.row.value) }] : [line];
    return half === 2 && line.kind === "reading" && before ? [{ ...line, row: sumOf(before, line.row) }] : [];
  });
}

function sumOf(a: Reading, b: Reading): Reading {
  const detail = { ...b.detail };
  delete detail.half;
  // A timer runs for each half, a dial stands for both.
  const amount = detail.setting !== undefined && a.detail.amount !== undefined ? a.detail.amount : 0;
  const own = Math.hypot(ownU(a), ownU(b));
  const uCommon = a.uCommon + b.uCommon;
  return {
    ...weighed(b, a.value + b.value),
    u: Math.hypot(own, uCommon),
    uCommon,
    early: a.early || b.early,
    detail: { ...detail, ...(detail.amount === undefined ? {} : { amount: detail.amount + amount }) },
  };
}

/**
 * A dose that no single weighing showed, with the correction of its last: two halves may be more than the scale weighs at once, and what
 * trimming left may lie outside the scale’s table.
 */
function weighed(row: Reading, value: number): Reading {
  const correction = row.value - row.indicated;
  const span = { lowest: Math.min(row.instrument.lowest, 0), highest: 2 * row.instrument.highest };
  const corrections = [
    [span.lowest, correction],
    [span.highest, correction],
  ] as const;
  return { ...row, indicated: value - correction, value, instrument: { ...row.instrument, ...span, corrections } };
}

/** The basket last dosed into; undefined where nobody said which. */
export function basketInUse(log: readonly LogLine[]): "single" | "double" | undefined {
  const last = log.findLast((l) => l.kind === "reading" && l.stands);
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
  return lines.flatMap((line): AdjustEvent[] => {
    if (line.kind === "repair" || line.kind === "grind") return [];
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
        u: Math.max(1e-3, unstated(line.row)),
        uCommon,
        instrument: instrumentAt(line.row),
        ...(waited || detail.settled ? { settled: true } : {}),
      },
    ];
  });
}

/** A gauge where it sits: tap closed or open, on the pump side it shows by as much more. */
export const instrumentAt = ({ instrument, place }: Pick<Reading, "instrument" | "place">): string =>
  `${instrument.id} ${place}`;

/**
 * The log with the readings set aside that the engine doubts, as long as another at the same place counts. The technician sees which, and why.
 *
 * @param doubted by their place among what the engine was told
 * @param told the lines it was told of
 */
export function setAside(
  log: readonly LogLine[],
  doubted: readonly Doubted[],
  told: readonly LogLine[],
): readonly LogLine[] {
  const as = new Map(doubted.flatMap((d) => (d.surely ? [[d.reading, d.as] as const] : [])));
  if (as.size === 0) return log;
  const rows = new Map<string, Doubted["as"]>();
  let [n, place] = [0, [] as string[]];
  const close = () => {
    if (place.every((id) => rows.has(id))) for (const id of place) rows.delete(id);
    place = [];
  };
  for (const line of told)
    if (line.kind === "reading") {
      const doubt = as.get(n++);
      place.push(line.row.id);
      if (doubt) rows.set(line.row.id, doubt);
    } else close();
  close();
  return log.map((line) => {
    const aside = line.kind === "reading" ? rows.get(line.row.id) : undefined;
    return aside && line.kind === "reading" ? { ...line, aside } : line;
  });
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

/** Set otherwise than when it was read before: the grind or the amount was changed, whether or not anybody logged it. */
function setAnew(a: Reading, b: Reading): boolean {
  const other = (x: number | undefined, y: number | undefined) =>
    x !== undefined && y !== undefined && Math.abs(x - y) > SAME;
  return other(a.detail.setting, b.detail.setting) || other(a.detail.amount, b.detail.amount);
}

/** What of a knob’s log counts as events of it: readings at the group, and what was changed between them. */
export function changesIn(log: readonly LogLine[]): ("reading" | "move" | "repair")[] {
  return drawn(counted(log)).flatMap((line) =>
    line === "line" || line.kind === "grind"
      ? ["move" as const]
      : isRecord(line) || line.kind !== "reading"
        ? [line.kind]
        : [],
  );
}

/** Read against a closed tap it says what OPV and pump do, not what the group sees. */
const isRecord = (line: LogLine) => line.kind === "reading" && !line.aside && line.row.detail.tap !== "closed";

/** A line wherever two readings one after the other were not of one state, though no move stands between them; and where a dose was trimmed. */
function drawn(count: readonly LogLine[]): (LogLine | "line")[] {
  return count.flatMap((line, i): (LogLine | "line")[] => {
    const before = count[i - 1];
    if (line.kind !== "reading") return [line];
    const anew =
      before?.kind === "reading" && (setAnew(before.row, line.row) || before.row.detail.trimmed !== undefined);
    const { trimmed } = line.row.detail;
    const read = anew ? ["line" as const, line] : [line];
    return trimmed === undefined ? read : [...read, "line", { ...line, row: trimmedTo(trimmed, line.row) }];
  });
}

/** What went into the basket. @param trimmed g, by the same scale */
const trimmedTo = (trimmed: number, row: Reading): Reading => weighed(row, row.value - row.indicated + trimmed);

export type Run = "as-found" | "as-left";

/** Readings before the first change of what is read, or after the last: a move, a repair, another grind. */
export function runOf(log: readonly LogLine[], run: Run): Reading[] {
  const now = drawn(counted(log));
  const touched = (line: LogLine | "line") => line === "line" || line.kind !== "reading";
  const first = now.findIndex(touched);
  const part =
    run === "as-found" ? now.slice(0, first === -1 ? undefined : first) : now.slice(now.findLastIndex(touched) + 1);
  return part.flatMap((line) => (line !== "line" && line.kind === "reading" && isRecord(line) ? [line.row] : []));
}

import { group } from "d3-array";
import type { AdjustEvent } from "../../core/adjust";
import type { Loop } from "../../core/loop";
import { type GaugePlace, type Instrument, type Measured, measure } from "../../core/metrology";
import type { MachineKind } from "../../core/kind";
import { swing } from "../../core/pressure";
import type { SheetRow } from "../../db/queries/jobs";

/** The log of readings and moves of a loop, in order, and what the core makes of it. */

export type ReadingRow = Omit<SheetRow["readings"][number], "reader">;
export type MoveRow = Omit<SheetRow["adjustments"][number], "turner">;
export type Entry<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> =
  { kind: "reading"; row: R; stands: boolean } | { kind: "move"; row: M; stands: boolean };

/** Readings and moves in working order; a corrected one keeps its place and stands no more. */
export function entriesOf<R extends ReadingRow, M extends MoveRow>(
  readings: readonly R[],
  moves: readonly M[],
): Entry<R, M>[] {
  const replaced = new Set([...readings, ...moves].map((row) => row.supersedes).filter((id) => id !== null));
  const all: Entry<R, M>[] = [
    ...readings.map((row) => ({ kind: "reading" as const, row, stands: !replaced.has(row.id) })),
    ...moves.map((row) => ({ kind: "move" as const, row, stands: !replaced.has(row.id) })),
  ];
  return all.sort((a, b) => a.row.sequence - b.row.sequence || a.row.at.getTime() - b.row.at.getTime());
}

/** What counts in the loop: lines that stand, and no flowing readings, which are evidence beside it. */
export function standing<R extends ReadingRow, M extends MoveRow>(entries: readonly Entry<R, M>[]): Entry<R, M>[] {
  return entries.filter((e) => e.stands && !(e.kind === "reading" && e.row.detail.flowing));
}

const MINUTE = 60_000;

/** What the engine is told. A reading after a wait, or after a restart, can hardly be a stale one. */
export function adjustEvents(entries: readonly Entry[], loop: Loop): AdjustEvent[] {
  let moved: number | null = null;
  return standing(entries).map((e): AdjustEvent => {
    if (e.kind === "move") {
      moved = e.row.at.getTime();
      return { kind: "move", amount: e.row.amount * (loop.hand?.sign ?? 1) };
    }
    const waited = moved !== null && loop.settle > 0 && e.row.at.getTime() - moved >= loop.settle * MINUTE;
    return {
      kind: "reading",
      value: e.row.value,
      u: Math.max(1e-3, Math.sqrt(Math.max(0, e.row.u ** 2 - e.row.uCommon ** 2))),
      uCommon: e.row.uCommon,
      ...(waited || e.row.detail.settled ? { settled: true } : {}),
    };
  });
}

/** Readings before the first move, or after the last. */
export function runOf<R extends ReadingRow, M extends MoveRow>(
  entries: readonly Entry<R, M>[],
  which: "as-found" | "as-left",
): R[] {
  const now = standing(entries);
  const kinds = now.map((e) => e.kind);
  const part =
    which === "as-found"
      ? now.slice(0, kinds.includes("move") ? kinds.indexOf("move") : undefined)
      : now.slice(kinds.lastIndexOf("move") + 1);
  return part.filter((e) => e.kind === "reading").map((e) => e.row as R);
}

type InstrumentRow = Pick<
  ReadingRow["instrument"],
  "lowest" | "highest" | "resolution" | "error" | "repeatability" | "corrections" | "dueOn"
>;

/** The instrument as the core knows it; what is read may scatter by itself from one reading to the next. */
export function instrumentOf(row: InstrumentRow, scatter = 0): Instrument {
  const { lowest, highest, resolution, error, repeatability, corrections, dueOn } = row;
  return {
    lowest,
    highest,
    resolution,
    error,
    repeatability: Math.hypot(repeatability, scatter),
    dueOn,
    ...(corrections ? { corrections } : {}),
  };
}

export function placeOf(row: Pick<ReadingRow, "place" | "toGroup" | "toGroupU">): GaugePlace {
  // Boiler and line are read where they are; only the pump side is carried over to the group.
  return row.place === "pump"
    ? { place: "pump", toGroup: row.toGroup, u: row.toGroupU }
    : { place: "group", toGroup: 0, u: 0 };
}

type Read = Pick<ReadingRow, "indicated" | "detail" | "place" | "toGroup" | "toGroupU"> & { instrument: InstrumentRow };

/**
 * From what was read, in one state and with one instrument, to what is judged: an offset’s readings are held against their set points,
 * a swinging needle adds its own uncertainty.
 */
export function measured(rows: readonly Read[], loop: Loop, pump: MachineKind["pump"]): Measured {
  const first = rows[0]!;
  const base = loop.with.setPoint ? (first.detail.setPoint ?? 0) : 0;
  const level = (r: Read) => (loop.with.setPoint ? r.indicated - (r.detail.setPoint ?? 0) + base : r.indicated);
  const swings = rows.flatMap(({ detail: { low, high } }) =>
    low === undefined || high === undefined ? [] : [swing(low, high, pump).line],
  );
  const widest = swings.reduce<(typeof swings)[number] | null>((a, b) => (a && a.u >= b.u ? a : b), null);
  const more = widest ? [{ ...widest, u: widest.u / Math.sqrt(rows.length) }] : [];
  const m = measure(rows.map(level), instrumentOf(first.instrument, loop.scatter), placeOf(first), 0.95, more);
  return { ...m, value: m.value - base };
}

export interface Summary {
  value: number;
  u: number;
  U: number;
  k: number;
  dof: number;
  resolution: number;
  count: number;
  readings: number[];
  /** Spread of the readings; null with one. */
  sd: number | null;
  budget: Measured["budget"];
  /** One figure per instrument, where there was more than one. */
  parts: { name: string; value: number; U: number }[];
}

/** One figure from a run of readings. Readings by several instruments are weighed by their uncertainty. */
export function summarise(run: readonly ReadingRow[], loop: Loop, pump: MachineKind["pump"]): Summary | null {
  if (run.length === 0) return null;
  const groups = group(run, (r) => `${r.instrumentId} ${r.place} ${r.toGroup}`);
  const parts = [...groups.values()].map((rows) => ({
    ...measured(rows, loop, pump),
    name: rows[0]!.instrument.name,
  }));
  const best = parts.reduce((a, b) => (b.u < a.u ? b : a));
  const readings = run.map((r) => r.value);
  const common = {
    resolution: Math.min(...run.map((r) => r.instrument.resolution)),
    count: run.length,
    readings,
    sd: spread(readings),
    k: best.k,
    dof: best.dof,
    budget: best.budget,
    parts: parts.length > 1 ? parts.map(({ name, value, U }) => ({ name, value, U })) : [],
  };
  if (parts.length === 1) return { ...common, value: best.value, u: best.u, U: best.U };
  const weights = parts.map((p) => 1 / Math.max(p.u, 1e-6) ** 2);
  const total = weights.reduce((a, b) => a + b, 0);
  const u = 1 / Math.sqrt(total);
  return { ...common, value: parts.reduce((sum, p, i) => sum + p.value * weights[i]!, 0) / total, u, U: best.k * u };
}

function spread(values: readonly number[]): number | null {
  if (values.length < 2) return null;
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((sum, x) => sum + (x - mean) ** 2, 0) / (values.length - 1));
}

import { group } from "d3-array";
import type { AdjustEvent } from "../../core/adjust";
import { type GaugePlace, type Instrument, type Measured, measure } from "../../core/metrology";
import { type OpvModel, raising } from "../../core/pressure";
import type { SheetRow } from "../../db/queries/jobs";

/** The log of readings and moves of a job, in order, and what the core makes of it. */

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

export function standing<R extends ReadingRow, M extends MoveRow>(entries: readonly Entry<R, M>[]): Entry<R, M>[] {
  return entries.filter((e) => e.stands);
}

/** What the engine is told. */
export function adjustEvents(entries: readonly Entry[], opv: OpvModel): AdjustEvent[] {
  return standing(entries).map((e) =>
    e.kind === "move"
      ? { kind: "move", amount: e.row.turns * raising(opv.raises) }
      : {
          kind: "reading",
          value: e.row.value,
          u: Math.max(0.01, Math.sqrt(Math.max(0, e.row.u ** 2 - e.row.uCommon ** 2))),
          uCommon: e.row.uCommon,
        },
  );
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

export function instrumentOf(row: ReadingRow["instrument"]): Instrument {
  const { lowest, highest, resolution, error, repeatability, corrections, dueOn } = row;
  return { lowest, highest, resolution, error, repeatability, dueOn, ...(corrections ? { corrections } : {}) };
}

export function placeOf(row: Pick<ReadingRow, "place" | "toGroup" | "toGroupU">): GaugePlace {
  return { place: row.place, toGroup: row.toGroup, u: row.toGroupU };
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
  budget: Measured["budget"];
}

/** One figure from a run of readings. Readings by several gauges are weighed by their uncertainty. */
export function summarise(run: readonly ReadingRow[]): Summary | null {
  if (run.length === 0) return null;
  const groups = group(run, (r) => `${r.instrumentId} ${r.place} ${r.toGroup}`);
  const parts = [...groups.values()].map((rows) =>
    measure(
      rows.map((r) => r.indicated),
      instrumentOf(rows[0]!.instrument),
      placeOf(rows[0]!),
    ),
  );
  const best = parts.reduce((a, b) => (b.u < a.u ? b : a));
  const resolution = Math.min(...run.map((r) => r.instrument.resolution));
  const common = {
    resolution,
    count: run.length,
    readings: run.map((r) => r.value),
    k: best.k,
    dof: best.dof,
    budget: best.budget,
  };
  if (parts.length === 1) return { ...common, value: best.value, u: best.u, U: best.U };
  const weights = parts.map((p) => 1 / Math.max(p.u, 1e-6) ** 2);
  const total = weights.reduce((a, b) => a + b, 0);
  const u = 1 / Math.sqrt(total);
  return { ...common, value: parts.reduce((sum, p, i) => sum + p.value * weights[i]!, 0) / total, u, U: best.k * u };
}

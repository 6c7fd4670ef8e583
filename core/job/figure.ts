import { deviation, group, sum } from "d3-array";
import type { MachineKind } from "../kind";
import type { Loop } from "../knobs";
import { AT_THE_GROUP, type GaugePlace, type Instrument, type Measured, measure } from "../metrology";
import { swing } from "../pressure";
import type { Reading } from "./job";

/** From readings to the one figure that is judged. */

/**
 * The instrument for one kind of work: what is read may scatter by itself from one reading to the next.
 *
 * @param scatter standard deviation of what is read, in its unit, ≥ 0
 */
export function instrumentFor(instrument: Instrument, scatter: number): Instrument {
  return { ...instrument, repeatability: Math.hypot(instrument.repeatability, scatter) };
}

/** Boiler and line are read where they are; only the pump side is carried over to the group. */
export function placeOf(sat: Pick<Reading, "place" | "toGroup" | "toGroupU">): GaugePlace {
  return sat.place === "pump" ? { place: "pump", toGroup: sat.toGroup, u: sat.toGroupU } : AT_THE_GROUP;
}

type Read = Pick<Reading, "indicated" | "detail" | "place" | "toGroup" | "toGroupU"> & { instrument: Instrument };

/**
 * From what was read, in one state and with one instrument, to what is judged: an offset’s readings are held against their set points,
 * a swinging needle adds its own uncertainty.
 *
 * @throws RangeError with no reading, a reading outside the instrument’s span, or outside its correction table
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
  const m = measure(rows.map(level), instrumentFor(first.instrument, loop.scatter), placeOf(first), 0.95, more);
  return { ...m, value: m.value - base };
}

export interface Figure {
  readonly value: number;
  readonly u: number;
  readonly U: number;
  readonly k: number;
  readonly dof: number;
  readonly resolution: number;
  readonly count: number;
  readonly readings: readonly number[];
  /** Spread of the readings; null with one. */
  readonly sd: number | null;
  readonly budget: Measured["budget"];
  /** One figure per instrument, where there was more than one. */
  readonly parts: readonly { readonly name: string; readonly value: number; readonly U: number }[];
}

/** One figure from a run of readings. Readings by several instruments are weighed by their uncertainty. Null with no reading. */
export function figureOf(run: readonly Reading[], loop: Loop, pump: MachineKind["pump"]): Figure | null {
  if (run.length === 0) return null;
  const sets = group(run, (r) => `${r.instrument.id} ${r.place} ${r.toGroup}`);
  const parts = [...sets.values()].map((rows) => ({
    ...measured(rows, loop, pump),
    name: rows[0]!.instrument.name,
  }));
  const best = parts.reduce((a, b) => (b.u < a.u ? b : a));
  const readings = run.map((r) => r.value);
  const common = {
    resolution: Math.min(...run.map((r) => r.instrument.resolution)),
    count: run.length,
    readings,
    sd: deviation(readings) ?? null,
    k: best.k,
    dof: best.dof,
    budget: best.budget,
    parts: parts.length > 1 ? parts.map(({ name, value, U }) => ({ name, value, U })) : [],
  };
  if (parts.length === 1) return { ...common, value: best.value, u: best.u, U: best.U };
  const weights = parts.map((p) => 1 / Math.max(p.u, 1e-6) ** 2);
  const total = sum(weights);
  const u = 1 / Math.sqrt(total);
  return { ...common, value: sum(parts, (p, i) => p.value * weights[i]!) / total, u, U: best.k * u };
}
